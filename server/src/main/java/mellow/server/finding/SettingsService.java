package mellow.server.finding;

import com.google.re2j.Pattern;
import com.google.re2j.PatternSyntaxException;
import java.nio.charset.Charset;
import java.nio.charset.IllegalCharsetNameException;
import java.time.Clock;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.EnumMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.TreeMap;
import java.util.TreeSet;
import mellow.core.check.Kind;
import mellow.core.check.Settings;
import mellow.core.check.Weight;
import mellow.server.check.Grounds;
import mellow.server.check.MaskKeeper;
import mellow.server.common.Refusal;
import mellow.server.finding.RecheckService.What;
import mellow.server.live.LiveChange;
import mellow.server.live.LiveService;
import mellow.server.people.PeopleService;
import mellow.server.product.ProductService;
import mellow.server.table.TableService;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;

/** What counts as wrong, for a table or for all tables of a product. Coordinators change it; what hangs on it follows at once or by looking again. */
@Service
public class SettingsService {

    private static final JsonMapper JSON = JsonMapper.shared();
    private static final TypeReference<TreeMap<String, String>> WEIGHTS = new TypeReference<>() {};
    private static final int MOST_PATTERNS = 50;
    private static final int LONGEST_PATTERN = 500;
    private static final int MOST_FORBIDDEN = 500;
    private static final double LARGEST_FACTOR = 20;

    private static final String OWN =
            """
            select weights, placeholders, forbidden, length_factor, key_rule, charset, version from check_setting
            where table_id = :table or product_id = :product
            """;
    private static final String ADD =
            """
            insert into check_setting (table_id, product_id, changed_at, changed_by) values (:table, :product, :at, :person) on conflict do nothing
            """;
    private static final String CHANGE =
            """
            update check_setting set weights = :weights::jsonb, placeholders = :placeholders, forbidden = :forbidden, length_factor = :factor,
                key_rule = :keys, charset = :charset, version = version + 1, changed_at = :at, changed_by = :person
            where (table_id = :table or product_id = :product) and version = :version
            """;
    private static final String TABLES_OF =
            """
            select u.table_id from product_table u join ledger_table t on t.id = u.table_id and t.removed_at is null where u.product_id = :product order by 1
            """;

    private final TableService tables;
    private final ProductService products;
    private final PeopleService people;
    private final RecheckService rechecks;
    private final MaskKeeper masks;
    private final LiveService live;
    private final JdbcClient jdbc;
    private final Clock clock;

    SettingsService(
            TableService tables,
            ProductService products,
            PeopleService people,
            RecheckService rechecks,
            MaskKeeper masks,
            LiveService live,
            JdbcClient jdbc,
            Clock clock) {
        this.tables = tables;
        this.products = products;
        this.people = people;
        this.rechecks = rechecks;
        this.masks = masks;
        this.live = live;
        this.jdbc = jdbc;
        this.clock = clock;
    }

    /**
     * What somebody said about what counts as wrong.
     *
     * @param version to be sent back with a change; 0 when nobody said anything yet
     * @param weights by kind: off, mind or stop; a kind that is not named counts as usual, or as the products say
     * @param placeholders patterns of placeholders of one's own, in RE2's syntax
     * @param forbidden characters that no text may have
     * @param lengthFactor how many times as long as its source a text may be, 0 for any
     * @param keyRule what every key must match as a whole, in RE2's syntax; empty for any
     * @param charset the character set of what a product reads; empty for any letter, and always for a table
     */
    public record CheckSettings(
            int version,
            Map<String, String> weights,
            List<String> placeholders,
            String forbidden,
            double lengthFactor,
            String keyRule,
            String charset) {

        static final CheckSettings NOTHING = new CheckSettings(0, Map.of(), List.of(), "", 0, "", "");
    }

    /**
     * Settings as a screen shows them.
     *
     * @param own what was said about this table or product
     * @param holds by kind: what holds in the end
     * @param usual by kind: what holds where nobody said anything
     */
    public record CheckSettingsReply(CheckSettings own, Map<String, String> holds, Map<String, String> usual) {}

    private record Owner(@Nullable Long table, @Nullable Long product) {}

    /** The settings of a table. */
    @Transactional(readOnly = true)
    public CheckSettingsReply ofTable(String slug) {
        long table = tables.find(slug).id();
        return new CheckSettingsReply(
                own(new Owner(table, null)),
                words(new Grounds(jdbc).settings(table).weights()),
                usual());
    }

    /** The settings of a product. */
    @Transactional(readOnly = true)
    public CheckSettingsReply ofProduct(String slug) {
        CheckSettings own = own(new Owner(null, products.find(slug).id()));
        Map<String, String> holds = usual();
        holds.putAll(own.weights());
        return new CheckSettingsReply(own, holds, usual());
    }

    private CheckSettings own(Owner owner) {
        return jdbc.sql(OWN)
                .param("table", owner.table())
                .param("product", owner.product())
                .query((row, n) -> new CheckSettings(
                        row.getInt("version"),
                        JSON.readValue(row.getString("weights"), WEIGHTS),
                        List.of((String[]) row.getArray("placeholders").getArray()),
                        row.getString("forbidden"),
                        row.getDouble("length_factor"),
                        row.getString("key_rule"),
                        row.getString("charset")))
                .optional()
                .orElse(CheckSettings.NOTHING);
    }

    private static Map<String, String> words(Map<Kind, Weight> weights) {
        // In the order in which kinds are told.
        Map<String, String> words = new LinkedHashMap<>();
        weights.forEach((kind, weight) -> words.put(kind.word(), weight.word()));
        return words;
    }

    private static Map<String, String> usual() {
        return words(Settings.USUAL.weights());
    }

    /** Changes the settings of a table. */
    @Transactional
    public CheckSettingsReply changeTable(long person, String slug, CheckSettings wanted) {
        people.rights(person).requireCoordinator("say what counts as wrong");
        long table = tables.find(slug).id();
        if (!wanted.charset().isEmpty()) {
            throw Refusal.unacceptable(
                    "charset-of-table", "A product has a character set, a table has none.", Map.of("field", "charset"));
        }
        change(person, new Owner(table, null), List.of(table), wanted);
        return ofTable(slug);
    }

    /** Changes the settings of a product, which its tables inherit. */
    @Transactional
    public CheckSettingsReply changeProduct(long person, String slug, CheckSettings wanted) {
        people.rights(person).requireCoordinator("say what counts as wrong");
        long product = products.find(slug).id();
        List<Long> concerned = tablesOf(product);
        change(person, new Owner(null, product), concerned, wanted);
        return ofProduct(slug);
    }

    List<Long> tablesOf(long product) {
        return jdbc.sql(TABLES_OF).param("product", product).query(Long.class).list();
    }

    private void change(long person, Owner owner, List<Long> concerned, CheckSettings wanted) {
        requireSound(wanted);
        new TreeSet<>(concerned).forEach(tables::holdAlone);
        Grounds before = new Grounds(jdbc);
        Map<Long, Settings> were = new TreeMap<>();
        concerned.forEach(table -> were.put(table, before.settings(table)));
        String charset = own(owner).charset();
        write(person, owner, wanted);
        Grounds after = new Grounds(jdbc);
        List<Long> again = new ArrayList<>();
        List<Long> sources = new ArrayList<>();
        for (long table : concerned) {
            Settings was = Objects.requireNonNull(were.get(table));
            Settings is = after.settings(table);
            move(table, was, is);
            if (asksMoreOfTexts(was, is) || !charset.equals(wanted.charset())) {
                again.add(table);
            } else if (asksMoreOfKeys(was, is)) {
                sources.add(table);
            }
            live.tell(new LiveChange(table, List.of(), List.of()));
        }
        rechecks.ask(again, person, What.ALL);
        rechecks.ask(sources, person, What.SOURCES);
    }

    private void write(long person, Owner owner, CheckSettings wanted) {
        jdbc.sql(ADD)
                .param("table", owner.table())
                .param("product", owner.product())
                .param("person", person)
                .param("at", clock.instant().atOffset(ZoneOffset.UTC))
                .update();
        int changed = jdbc.sql(CHANGE)
                .param("table", owner.table())
                .param("product", owner.product())
                .param("weights", JSON.writeValueAsString(wanted.weights()))
                .param("placeholders", wanted.placeholders().toArray(String[]::new))
                .param("forbidden", wanted.forbidden())
                .param("factor", wanted.lengthFactor())
                .param("keys", wanted.keyRule())
                .param("charset", wanted.charset())
                .param("version", wanted.version())
                .param("person", person)
                .param("at", clock.instant().atOffset(ZoneOffset.UTC))
                .update();
        if (changed == 0) {
            throw Refusal.conflict(
                    "settings-moved-on",
                    "Someone changed these settings meanwhile; look at them again, then repeat your change.",
                    Map.of());
        }
    }

    /** Moves what counts otherwise now. */
    private void move(long table, Settings was, Settings is) {
        for (Kind kind : Kind.values()) {
            if (was.weight(kind) != is.weight(kind)) {
                masks.moved(table, kind, is.weight(kind));
            }
        }
    }

    /** Whether something is looked for in texts that was not before. */
    private static boolean asksMoreOfTexts(Settings was, Settings is) {
        return !was.placeholders().patterns().equals(is.placeholders().patterns())
                || !was.forbidden().equals(is.forbidden())
                || was.lengthFactor() != is.lengthFactor()
                || Arrays.stream(Kind.values()).anyMatch(kind -> kind != Kind.KEY && switchedOn(kind, was, is));
    }

    private static boolean asksMoreOfKeys(Settings was, Settings is) {
        return switchedOn(Kind.KEY, was, is)
                || !Objects.toString(was.keys(), "").equals(Objects.toString(is.keys(), ""));
    }

    private static boolean switchedOn(Kind kind, Settings was, Settings is) {
        return was.weight(kind) == Weight.OFF && is.weight(kind) != Weight.OFF;
    }

    private static void requireSound(CheckSettings wanted) {
        Map<Kind, Weight> weights = new EnumMap<>(Kind.class);
        wanted.weights()
                .forEach((kind, weight) -> weights.put(
                        Kind.of(kind).orElseThrow(() -> bad("weights", "There is no kind of finding “" + kind + "”.")),
                        Weight.of(weight)
                                .orElseThrow(() ->
                                        bad("weights", "A kind can be off, mind or stop, not “" + weight + "”."))));
        if (wanted.placeholders().size() > MOST_PATTERNS) {
            throw bad("placeholders", "At most " + MOST_PATTERNS + " patterns of placeholders.");
        }
        for (String pattern : wanted.placeholders()) {
            requirePattern("placeholders", pattern);
            if (Pattern.compile(pattern).matches("")) {
                throw bad("placeholders", "“" + pattern + "” matches nothing at all, and so would be everywhere.");
            }
        }
        if (!wanted.keyRule().isEmpty()) {
            requirePattern("keyRule", wanted.keyRule());
        }
        if (wanted.forbidden().length() > MOST_FORBIDDEN) {
            throw bad("forbidden", "At most " + MOST_FORBIDDEN + " characters can be forbidden.");
        }
        if (!(wanted.lengthFactor() == 0 || (wanted.lengthFactor() >= 1 && wanted.lengthFactor() <= LARGEST_FACTOR))) {
            throw bad("lengthFactor", "A text may be 1 to 20 times as long as its source; 0 is for any length.");
        }
        requireCharset(wanted.charset());
    }

    private static void requireCharset(String name) {
        try {
            if (!name.isEmpty()
                    && !(Charset.isSupported(name) && Charset.forName(name).canEncode())) {
                throw bad("charset", "“" + name + "” is no character set that can be written here.");
            }
        } catch (IllegalCharsetNameException none) {
            throw bad("charset", "“" + name + "” is no name of a character set.");
        }
    }

    private static void requirePattern(String field, String pattern) {
        if (pattern.isBlank() || pattern.length() > LONGEST_PATTERN) {
            throw bad(field, "A pattern has 1 to " + LONGEST_PATTERN + " characters.");
        }
        try {
            Pattern.compile(pattern);
        } catch (PatternSyntaxException none) {
            throw bad(field, "“" + pattern + "” is no pattern: " + none.getDescription() + ".");
        }
    }

    private static Refusal bad(String field, String sentence) {
        return Refusal.unacceptable("bad-settings", sentence, Map.of("field", field));
    }
}
