package mellow.server.bundle;

import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.sql.Array;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import mellow.server.common.Hashes;
import mellow.server.common.Refusal;
import mellow.server.common.Secrets;
import mellow.server.people.PeopleService;
import mellow.server.product.ProductService;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Whether a product may ask for its texts over HTTP, with which tokens, and which pages may read the answers. Coordinators see and change it. */
@Service
public class BundleSettings {

    private static final String PREFIX = "bundle-";
    private static final Pattern ORIGIN = Pattern.compile(
            "(?<scheme>https?)://(?<host>[a-z0-9._-]{1,253}|\\[[0-9a-f:.]{2,45}])(?<port>:[0-9]{1,5})?/?");
    private static final int SECRET_BYTES = 32;
    private static final int MOST_DAYS = 400;
    private static final int MOST_TOKENS = 100;

    private final JdbcClient jdbc;
    private final PeopleService people;
    private final ProductService products;
    private final Clock clock;

    BundleSettings(JdbcClient jdbc, PeopleService people, ProductService products, Clock clock) {
        this.jdbc = jdbc;
        this.people = people;
        this.products = products;
        this.clock = clock;
    }

    /**
     * What is set.
     *
     * @param served whether anything is answered at all
     * @param open whether no token is needed
     * @param origins of pages whose scripts may read the answers, such as https://ferry.example; * for any
     * @param shown whether anybody may see how far its languages are
     */
    record BundleChoice(
            boolean served,
            boolean open,
            @NotNull @Size(max = 50) List<@NotBlank String> origins,
            boolean shown,
            int version) {

        static final BundleChoice NONE = new BundleChoice(false, false, List.of(), false, 0);
    }

    /**
     * A token that was not ended.
     *
     * @param live whether it is good for texts that were not delivered yet
     * @param usedAt when a product last used it, null for never; kept to the minute
     */
    record BundleToken(
            long id,
            String name,
            boolean live,
            String person,
            Instant madeAt,
            Instant expiresAt,
            @Nullable Instant usedAt) {}

    /** What is shown. */
    record BundleDesk(BundleChoice choice, List<BundleToken> tokens) {}

    /**
     * A token to be made.
     *
     * @param days how long it lasts
     */
    record TokenEdit(@NotBlank @Size(max = 100) String name, boolean live, int days) {}

    /** A new token: its secret is told once. */
    record TokenMade(String secret, BundleDesk desk) {}

    /** What is set for a product. */
    @Transactional(readOnly = true)
    BundleDesk of(long person, String slug) {
        people.rights(person).requireCoordinator("see how products fetch their texts");
        return desk(products.find(slug).id());
    }

    private BundleDesk desk(long product) {
        List<BundleToken> tokens = jdbc.sql(
                        """
                        select t.*, p.name person from bundle_token t join person p on p.id = t.person_id
                        where t.product_id = :product and t.ended_at is null order by t.id desc
                        """)
                .param("product", product)
                .query((row, n) -> new BundleToken(
                        row.getLong("id"),
                        row.getString("name"),
                        row.getBoolean("live"),
                        row.getString("person"),
                        row.getTimestamp("made_at").toInstant(),
                        row.getTimestamp("expires_at").toInstant(),
                        row.getTimestamp("used_at") == null
                                ? null
                                : row.getTimestamp("used_at").toInstant()))
                .list();
        return new BundleDesk(choice(product), tokens);
    }

    private BundleChoice choice(long product) {
        return jdbc.sql("select * from bundle_setting where product_id = :product")
                .param("product", product)
                .query((row, n) -> new BundleChoice(
                        row.getBoolean("served"),
                        row.getBoolean("open"),
                        origins(row),
                        row.getBoolean("shown"),
                        row.getInt("version")))
                .optional()
                .orElse(BundleChoice.NONE);
    }

    /** Lets a product be asked for by everybody, and shows how far it is; as a coordinator would. */
    @Transactional
    public void serve(long person, String slug) {
        change(person, slug, new BundleChoice(true, true, List.of(), true, 0));
    }

    static List<String> origins(ResultSet row) throws SQLException {
        Array origins = row.getArray("origins");
        return List.of((String[]) origins.getArray());
    }

    /** Changes it, unless somebody else did meanwhile. */
    @Transactional
    BundleDesk change(long person, String slug, BundleChoice wanted) {
        people.rights(person).requireCoordinator("change how products fetch their texts");
        long product = products.find(slug).id();
        List<String> origins =
                wanted.origins.stream().map(BundleSettings::origin).distinct().toList();
        int done = jdbc.sql(
                        """
                        insert into bundle_setting as s (product_id, served, open, origins, shown, version) select :product, :served, :open, :origins, :shown, 1 where :version = 0
                        on conflict (product_id) do nothing
                        """)
                .param("product", product)
                .param("served", wanted.served)
                .param("open", wanted.open)
                .param("origins", origins.toArray(String[]::new))
                .param("shown", wanted.shown)
                .param("version", wanted.version)
                .update();
        if (done == 0) {
            done = jdbc.sql(
                            """
                            update bundle_setting set served = :served, open = :open, origins = :origins, shown = :shown, version = version + 1
                            where product_id = :product and version = :version
                            """)
                    .param("product", product)
                    .param("served", wanted.served)
                    .param("open", wanted.open)
                    .param("origins", origins.toArray(String[]::new))
                    .param("shown", wanted.shown)
                    .param("version", wanted.version)
                    .update();
        }
        if (done == 0) {
            throw Refusal.conflict(
                    "changed-meanwhile", "This was changed meanwhile; look at it again and change it then.", Map.of());
        }
        return desk(product);
    }

    /** An origin (RFC 6454 §6.1) as browsers write it: scheme, host in lower case, port unless it is the usual one. */
    static String origin(String said) {
        String wanted = said.strip().toLowerCase(Locale.ROOT);
        if (wanted.equals("*")) {
            return wanted;
        }
        Matcher origin = ORIGIN.matcher(wanted);
        if (!origin.matches()) {
            throw Refusal.unacceptable(
                    "no-origin",
                    "“{said}” is no origin of a page; expected one such as https://ferry.example, or * for any.",
                    Map.of("field", "origins", "said", said));
        }
        String usual = origin.group("scheme").equals("https") ? ":443" : ":80";
        String port = origin.group("port");
        return origin.group("scheme") + "://" + origin.group("host") + (port == null || port.equals(usual) ? "" : port);
    }

    /** Makes a token. */
    @Transactional
    TokenMade addToken(long person, String slug, TokenEdit wanted) {
        people.rights(person).requireCoordinator("make tokens");
        long product = products.find(slug).id();
        if (wanted.days < 1 || wanted.days > MOST_DAYS) {
            throw Refusal.unacceptable(
                    "bad-days", "A token lasts 1 to {most} days.", Map.of("field", "days", "most", MOST_DAYS));
        }
        int there = jdbc.sql("select count(*)::int from bundle_token where product_id = :product and ended_at is null")
                .param("product", product)
                .query(Integer.class)
                .single();
        if (there >= MOST_TOKENS) {
            throw Refusal.unacceptable(
                    "too-many-tokens",
                    "A product has at most {most} tokens; end those that nobody uses.",
                    Map.of("most", MOST_TOKENS));
        }
        String secret = PREFIX + Secrets.made(SECRET_BYTES);
        Instant now = clock.instant();
        jdbc.sql(
                        """
                        insert into bundle_token (product_id, hash, name, live, person_id, made_at, expires_at)
                        values (:product, :hash, :name, :live, :person, :now, :expires)
                        """)
                .param("product", product)
                .param("hash", Hashes.sha256(secret))
                .param("name", wanted.name.strip())
                .param("live", wanted.live)
                .param("person", person)
                .param("now", now.atOffset(ZoneOffset.UTC))
                .param("expires", now.plus(Duration.ofDays(wanted.days)).atOffset(ZoneOffset.UTC))
                .update();
        return new TokenMade(secret, desk(product));
    }

    /** Ends a token, on every server with its next request. */
    @Transactional
    BundleDesk endToken(long person, String slug, long id) {
        people.rights(person).requireCoordinator("end tokens");
        long product = products.find(slug).id();
        int ended = jdbc.sql(
                        "update bundle_token set ended_at = :now where id = :id and product_id = :product and ended_at is null")
                .param("now", clock.instant().atOffset(ZoneOffset.UTC))
                .param("id", id)
                .param("product", product)
                .update();
        if (ended == 0) {
            throw Refusal.notFound("no-such-token", "This token does not exist any more.");
        }
        return desk(product);
    }
}
