package mellow.server.bundle;

import java.time.Clock;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import mellow.server.common.Refusal;
import mellow.server.people.PeopleService;
import mellow.server.product.ProductService;
import mellow.server.replica.Replica;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.SmartLifecycle;
import org.springframework.dao.DataAccessException;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.TransactionException;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * How often products asked for their texts, what for, and what came of it. Counted in memory and added to the database every few seconds by each server: a server that is
 * killed loses the counts of those seconds, and no request waits for them.
 */
@Service
class BundleUse implements SmartLifecycle {

    /** Whoever was refused for lack of a token. */
    static final long STRANGER = -1;

    private static final Logger LOG = LoggerFactory.getLogger(BundleUse.class);
    private static final int KEPT_DAYS = 92;
    private static final int MOST_ROWS = 1_000;
    private static final long EVERY_MILLIS = 5_000;
    private static final String ADD =
            """
            insert into bundle_use as u (product_id, day, token_id, what, language, answered, unchanged, refused, bytes, last_at)
            select x.* from unnest(:products::bigint[], :days::date[], :tokens::bigint[], :whats::text[], :languages::text[], :answered::bigint[], :unchanged::bigint[],
                :refused::bigint[], :bytes::bigint[], :at::timestamptz[]) x (product, day, token, what, language, answered, unchanged, refused, bytes, at)
            join product p on p.id = x.product
            order by x.product, x.day, x.token, x.what, x.language
            on conflict (product_id, day, token_id, what, language) do update set answered = u.answered + excluded.answered, unchanged = u.unchanged + excluded.unchanged,
                refused = u.refused + excluded.refused, bytes = u.bytes + excluded.bytes, last_at = greatest(u.last_at, excluded.last_at)
            """;
    private static final String ROWS =
            """
            select u.token_id, t.name, u.what, u.language, sum(u.answered)::bigint answered, sum(u.unchanged)::bigint unchanged, sum(u.refused)::bigint refused,
                sum(u.bytes)::bigint bytes, max(u.last_at) last_at, t.id is not null and (t.ended_at is not null or t.expires_at <= :now) ended
            from bundle_use u left join bundle_token t on t.id = u.token_id
            where u.product_id = :product and u.day > :since
            group by u.token_id, t.id, u.what, u.language order by last_at desc, u.token_id, u.what, u.language limit :most
            """;
    private static final String DAYS =
            """
            select day, sum(answered)::bigint answered, sum(unchanged)::bigint unchanged, sum(refused)::bigint refused, sum(bytes)::bigint bytes
            from bundle_use where product_id = :product and day > :since group by day order by day
            """;

    private final JdbcClient jdbc;
    private final PeopleService people;
    private final ProductService products;
    private final TransactionTemplate transaction;
    private final Replica replica;
    private final Clock clock;
    private Map<Key, Count> counts = new HashMap<>();
    private volatile @Nullable Thread keeper;

    BundleUse(
            JdbcClient jdbc,
            PeopleService people,
            ProductService products,
            TransactionTemplate transaction,
            Replica replica,
            Clock clock) {
        this.jdbc = jdbc;
        this.people = people;
        this.products = products;
        this.transaction = transaction;
        this.replica = replica;
        this.clock = clock;
    }

    private record Key(long product, LocalDate day, long token, String what, String language) {}

    private record Count(long answered, long unchanged, long refused, long bytes, Instant at) {

        Count plus(Count other) {
            return new Count(
                    answered + other.answered,
                    unchanged + other.unchanged,
                    refused + other.refused,
                    bytes + other.bytes,
                    at.isAfter(other.at) ? at : other.at);
        }
    }

    /**
     * Who asks.
     *
     * @param token the token's number, {@link BundleAccess#NOBODY} or {@link #STRANGER}
     */
    record Asker(long product, long token) {}

    /**
     * What is asked for.
     *
     * @param what list, texts, changes, live or events
     * @param language its tag, empty where none was found
     */
    record Wish(String what, String language) {}

    /** Counts an answer of so many bytes. */
    void answered(Asker asker, Wish wish, long bytes) {
        count(asker, wish, new Count(1, 0, 0, bytes, clock.instant()));
    }

    /** Counts an answer that there is nothing new. */
    void unchanged(Asker asker, Wish wish) {
        count(asker, wish, new Count(0, 1, 0, 0, clock.instant()));
    }

    /** Counts a refusal. */
    void refused(Asker asker, Wish wish) {
        count(asker, wish, new Count(0, 0, 1, 0, clock.instant()));
    }

    private void count(Asker asker, Wish wish, Count one) {
        add(Map.of(
                new Key(
                        asker.product,
                        LocalDate.ofInstant(one.at, ZoneOffset.UTC),
                        asker.token,
                        wish.what,
                        wish.language),
                one));
    }

    private synchronized void add(Map<Key, Count> more) {
        more.forEach((key, count) -> counts.merge(key, count, Count::plus));
    }

    private synchronized Map<Key, Count> taken() {
        Map<Key, Count> taken = counts;
        counts = new HashMap<>();
        return taken;
    }

    /** Adds what was counted since; when that fails it is counted with what comes next. */
    void keep() {
        Map<Key, Count> taken = taken();
        if (taken.isEmpty()) {
            return;
        }
        try {
            transaction.executeWithoutResult(status -> keep(taken));
        } catch (RuntimeException failed) {
            add(taken);
            throw failed;
        }
    }

    private void keep(Map<Key, Count> taken) {
        List<Key> keys = List.copyOf(taken.keySet());
        List<Count> values =
                keys.stream().map(key -> taken.getOrDefault(key, NONE)).toList();
        jdbc.sql(ADD)
                .param("products", keys.stream().map(Key::product).toArray(Long[]::new))
                .param("days", keys.stream().map(key -> key.day.toString()).toArray(String[]::new))
                .param("tokens", keys.stream().map(Key::token).toArray(Long[]::new))
                .param("whats", keys.stream().map(Key::what).toArray(String[]::new))
                .param("languages", keys.stream().map(Key::language).toArray(String[]::new))
                .param("answered", values.stream().map(Count::answered).toArray(Long[]::new))
                .param("unchanged", values.stream().map(Count::unchanged).toArray(Long[]::new))
                .param("refused", values.stream().map(Count::refused).toArray(Long[]::new))
                .param("bytes", values.stream().map(Count::bytes).toArray(Long[]::new))
                .param("at", values.stream().map(count -> count.at.toString()).toArray(String[]::new))
                .update();
        jdbc.sql("delete from bundle_use where day < :before")
                .param("before", today().minusDays(KEPT_DAYS))
                .update();
    }

    private static final Count NONE = new Count(0, 0, 0, 0, Instant.EPOCH);

    private LocalDate today() {
        return LocalDate.ofInstant(clock.instant(), ZoneOffset.UTC);
    }

    /**
     * What somebody asked for in the days that were looked at.
     *
     * @param token the token's number; 0 for nobody in particular, -1 for whoever was refused for lack of one
     * @param name the token's
     * @param ended whether the token was ended or has expired
     * @param what list, texts, changes, live or events
     * @param language its tag; empty where none was found
     * @param unchanged how often there was nothing new
     * @param bytes what was sent
     */
    record UseRow(
            long token,
            @Nullable String name,
            boolean ended,
            String what,
            String language,
            long answered,
            long unchanged,
            long refused,
            long bytes,
            Instant last) {}

    /** A day (UTC) on which somebody asked. */
    record UseDay(LocalDate day, long answered, long unchanged, long refused, long bytes) {}

    /**
     * What was asked for.
     *
     * @param rows whoever asked last first, at most a thousand
     * @param replica how the replica stood that this server reads bundles from, null without one
     */
    record Use(int days, List<UseRow> rows, List<UseDay> byDay, Replica.@Nullable Now replica) {}

    /** What was asked for of a product in the last days, today among them. */
    Use of(long person, String slug, int days) {
        people.rights(person).requireCoordinator("see who fetches texts");
        long product = products.find(slug).id();
        if (days < 1 || days > KEPT_DAYS) {
            throw Refusal.unacceptable(
                    "bad-days",
                    "This is kept for {most} days; ask for 1 to {most}.",
                    Map.of("field", "days", "most", KEPT_DAYS));
        }
        keep();
        LocalDate since = today().minusDays(days);
        List<UseRow> rows = jdbc.sql(ROWS)
                .param("product", product)
                .param("since", since)
                .param("now", clock.instant().atOffset(ZoneOffset.UTC))
                .param("most", MOST_ROWS)
                .query((row, n) -> new UseRow(
                        row.getLong("token_id"),
                        row.getString("name"),
                        row.getBoolean("ended"),
                        row.getString("what"),
                        row.getString("language"),
                        row.getLong("answered"),
                        row.getLong("unchanged"),
                        row.getLong("refused"),
                        row.getLong("bytes"),
                        row.getTimestamp("last_at").toInstant()))
                .list();
        List<UseDay> byDay = jdbc.sql(DAYS)
                .param("product", product)
                .param("since", since)
                .query((row, n) -> new UseDay(
                        row.getObject("day", LocalDate.class),
                        row.getLong("answered"),
                        row.getLong("unchanged"),
                        row.getLong("refused"),
                        row.getLong("bytes")))
                .list();
        return new Use(days, rows, byDay, replica.now().orElse(null));
    }

    private void keepOn() {
        while (keeper == Thread.currentThread()) {
            try {
                Thread.sleep(EVERY_MILLIS);
                keep();
            } catch (InterruptedException ended) {
                Thread.currentThread().interrupt();
                return;
            } catch (RuntimeException failed) {
                LOG.warn("What products asked for could not be written down, trying again.", failed);
            }
        }
    }

    @Override
    public void start() {
        Thread thread = new Thread(this::keepOn, "bundle-use");
        thread.setDaemon(true);
        keeper = thread;
        thread.start();
    }

    @Override
    public void stop() {
        Thread thread = keeper;
        keeper = null;
        if (thread != null) {
            thread.interrupt();
        }
        try {
            keep();
        } catch (DataAccessException | TransactionException away) {
            LOG.warn("What products asked for last could not be written down: {}", away.getMessage());
        }
    }

    @Override
    public boolean isRunning() {
        return keeper != null;
    }
}
