package mellow.server.bundle;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import com.github.benmanes.caffeine.cache.Ticker;
import java.nio.ByteBuffer;
import java.sql.Timestamp;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.atomic.AtomicInteger;
import mellow.server.common.Hashes;
import org.jspecify.annotations.Nullable;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/**
 * Says whether a request for a bundle may be answered. One statement looks at the product and the token together, so that asking costs the same whether a product is
 * unknown, not served, or the token is another's. That somebody may ask is remembered for half a second: what is ended is ended on every server within a second.
 */
@Component
class BundleAccess {

    /** Refused ones of one address in a minute, before it is told to wait. */
    static final int MOST_REFUSED = 30;

    private static final byte[] NO_HASH = {};
    private static final int MOST_COUNTED = 100_000;
    private static final int MOST_REMEMBERED = 10_000;
    private static final String ASKED =
            """
            select p.id, p.created_at, p.version, s.open, s.origins, t.id token, t.live, t.used_at
            from (values (0)) always
            left join product p on p.slug = :slug and p.removed_at is null and exists (select 1 from bundle_setting s where s.product_id = p.id and s.served)
            left join bundle_setting s on s.product_id = p.id
            left join bundle_token t on t.hash = :hash and t.product_id = p.id and t.ended_at is null and t.expires_at > :now
            """;

    private static final String MAY_STAY =
            """
            select x.n::int - 1 from unnest(:tokens::bigint[], :versions::int[]) with ordinality x (token, version, n)
            join bundle_token t on t.id = x.token and t.live and t.ended_at is null and t.expires_at > :now
            join product p on p.id = t.product_id and p.removed_at is null and p.version = x.version
            join bundle_setting s on s.product_id = p.id and s.served
            """;

    private final JdbcClient jdbc;
    private final Clock clock;
    /** Requests of one token, or of one address without, in a minute on one server. */
    private final int most;

    private final Cache<Asked, Found> remembered;

    private final Cache<String, AtomicInteger> asked = counters();
    private final Cache<String, AtomicInteger> refused = counters();

    BundleAccess(
            JdbcClient jdbc,
            Clock clock,
            @Value("${mellow.bundles.per-minute:600}") int most,
            @Value("${mellow.bundles.remembered:PT0.5S}") Duration forAsLong) {
        this.remembered = Caffeine.newBuilder()
                .maximumSize(MOST_REMEMBERED)
                .expireAfterWrite(forAsLong)
                .build();
        this.jdbc = jdbc;
        this.clock = clock;
        this.most = most;
    }

    private static Cache<String, AtomicInteger> counters() {
        return Caffeine.newBuilder()
                .maximumSize(MOST_COUNTED)
                .expireAfterWrite(Duration.ofMinutes(2))
                .ticker(Ticker.systemTicker())
                .build();
    }

    /**
     * A product as it was set up at a moment.
     *
     * @param created when it was made, so that no number that is given again means another
     */
    record ProductAt(long id, Instant created, int version) {}

    /**
     * A product that may be told.
     *
     * @param open whether anybody may ask
     * @param live whether texts may be told that were not delivered yet
     * @param token its number, {@value #NOBODY} where none was needed
     * @param who the token or the address, to count requests by
     */
    record Granted(ProductAt product, boolean open, boolean live, long token, String who) {}

    /** The number of no token. */
    static final long NOBODY = 0;

    /**
     * What came of asking.
     *
     * @param granted empty where it may not be told
     * @param product the number of one that is served, whether it may be told or not
     * @param origins whose pages may read the answer, whatever it is
     */
    record Access(Optional<Granted> granted, Optional<Long> product, List<String> origins) {}

    /**
     * A request, as far as it matters for who may be told.
     *
     * @param hash of its secret, null for none; secrets are not remembered
     */
    private record Asked(String slug, @Nullable ByteBuffer hash) {}

    /**
     * What the database says of one.
     *
     * @param product null where none is served
     * @param may whether it may be told
     */
    private record Found(
            @Nullable ProductAt product, boolean open, boolean live, long token, boolean may, List<String> origins) {

        static final Found NOTHING = new Found(null, false, false, NOBODY, false, List.of());
    }

    /** Someone who goes on listening: a token, and the product as it was when the listening began. */
    record Seat(long token, ProductAt product) {}

    /** Looks at a request with a secret, null for none. */
    Access look(String slug, @Nullable String secret, String address) {
        Asked request = new Asked(slug, secret == null ? null : ByteBuffer.wrap(Hashes.sha256(secret)));
        Found found = remembered.getIfPresent(request);
        if (found == null) {
            found = find(request);
            // Only what may be told: a token that is made now is good at once.
            if (found.may) {
                remembered.put(request, found);
            }
        }
        ProductAt product = found.product;
        if (product == null) {
            return new Access(Optional.empty(), Optional.empty(), List.of());
        }
        Granted granted = new Granted(
                product, found.open, found.live, found.token, found.token == NOBODY ? address : "token " + found.token);
        return new Access(found.may ? Optional.of(granted) : Optional.empty(), Optional.of(product.id), found.origins);
    }

    private Found find(Asked request) {
        Instant now = clock.instant();
        return jdbc.sql(ASKED)
                .param("slug", request.slug)
                .param("hash", request.hash == null ? NO_HASH : request.hash.array())
                .param("now", now.atOffset(ZoneOffset.UTC))
                .query((row, n) -> {
                    long product = row.getLong("id");
                    if (row.wasNull()) {
                        return Found.NOTHING;
                    }
                    long token = row.getLong("token");
                    boolean known = !row.wasNull();
                    if (known) {
                        Timestamp before = row.getTimestamp("used_at");
                        used(token, before == null ? null : before.toInstant(), now);
                    }
                    // A wrong secret is refused even where none is needed: whoever sends one believes that it counts.
                    boolean open = row.getBoolean("open");
                    return new Found(
                            new ProductAt(
                                    product, row.getTimestamp("created_at").toInstant(), row.getInt("version")),
                            open,
                            known && row.getBoolean("live"),
                            known ? token : NOBODY,
                            known || (open && request.hash == null),
                            BundleSettings.origins(row));
                })
                .single();
    }

    /** The places in {@code seats} of those who may go on. */
    @Transactional(readOnly = true)
    Set<Integer> mayStay(List<Seat> seats) {
        return new HashSet<>(jdbc.sql(MAY_STAY)
                .param("tokens", seats.stream().map(Seat::token).toArray(Long[]::new))
                .param(
                        "versions",
                        seats.stream().map(seat -> seat.product.version).toArray(Integer[]::new))
                .param("now", clock.instant().atOffset(ZoneOffset.UTC))
                .query(Integer.class)
                .list());
    }

    private void used(long token, @Nullable Instant before, Instant now) {
        if (before == null || before.isBefore(now.minus(Duration.ofMinutes(1)))) {
            jdbc.sql("update bundle_token set used_at = :now where id = :id")
                    .param("now", now.atOffset(ZoneOffset.UTC))
                    .param("id", token)
                    .update();
        }
    }

    /**
     * How many requests are left in this minute.
     *
     * @param left below zero when there were too many
     * @param seconds until the next minute
     */
    record Limit(int most, int left, int seconds) {}

    /** Counts an answered request. */
    Limit asked(String who) {
        return count(asked, who, most);
    }

    /** Counts a refused one. */
    Limit refused(String address) {
        return count(refused, address, MOST_REFUSED);
    }

    private Limit count(Cache<String, AtomicInteger> counters, String who, int most) {
        long second = clock.instant().getEpochSecond();
        int n = counters.get(second / 60 + " " + who, any -> new AtomicInteger())
                .incrementAndGet();
        return new Limit(most, most - n, (int) (60 - second % 60));
    }
}
