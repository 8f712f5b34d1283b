package mellow.server.code;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Timestamp;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import mellow.core.scan.GivenValues;
import mellow.core.scan.GivenValues.Misfit;
import mellow.core.scan.HardText;
import mellow.core.scan.KeyNames;
import mellow.core.scan.KeyUse.Values;
import mellow.core.scan.Rewrite;
import mellow.server.code.CodeReplies.CodeEntry;
import mellow.server.code.CodeReplies.CodeOverview;
import mellow.server.code.CodeReplies.DifferingText;
import mellow.server.code.CodeReplies.MisfitValues;
import mellow.server.code.CodeReplies.MissingKey;
import mellow.server.code.CodeReplies.ScanReply;
import mellow.server.code.CodeReplies.TextWithoutKey;
import mellow.server.common.Refusal;
import mellow.server.product.ProductService;
import mellow.server.product.ProductService.ProductReply;
import mellow.server.run.RunService;
import mellow.server.run.RunService.RunReply;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Reads what was found in the code of a product, as it stands to the tables now: an entry that was made since is not missing any more. */
@Service
class CodeLists {

    static final int PAGE = 200;
    /** Placeholders are compared outside of the database; more places than this are not looked at. */
    private static final int MOST_COMPARED = 50_000;

    private static final JsonMapper JSON = JsonMapper.shared();

    /** Entries of the product that are there. */
    private static final String OF_PRODUCT =
            """
            entry e join product_table p on p.table_id = e.table_id and p.product_id = :product
            join ledger_table t on t.id = p.table_id and t.removed_at is null
            """;

    private static final String FOLDED = "translate(e.key, '.-/:', '____')";

    private static final String MISSING =
            """
            with asked as (
                select distinct u.key, u.folded, u.context from scan_use u
                where u.scan_id = :scan and u.how = 0 and not u.test and u.key >= :after and (u.key, coalesce(u.context, '')) > (:after, :afterContext)),
            names as (
                select distinct %2$s folded_key from %1$s where e.removed_at is null and exists (select 1 from asked where folded))
            select a.key, a.folded, coalesce(a.context, '') context from asked a
            where case when a.folded then a.key not in (select folded_key from names)
                  else not exists (select 1 from %1$s where e.key = a.key and e.removed_at is null and (a.context is null or e.context = a.context)) end
            """
                    .formatted(OF_PRODUCT, FOLDED);
    private static final String MISSING_PAGE = MISSING + " order by a.key, context limit :most";
    private static final String MISSING_COUNT = "select count(*) from (" + MISSING + ") m";

    private static final String PLACES_OF =
            """
            select u.key, coalesce(u.context, '') context, count(*) places, min(u.position) first, bool_or(u.fresh) fresh,
                   (array_agg(u.said order by u.position) filter (where u.said is not null))[1] said,
                   (array_agg(u.note order by u.position) filter (where u.note <> ''))[1] note,
                   (array_agg(u.path order by u.position))[1] path, (array_agg(u.line order by u.position))[1] line,
                   (array_agg(u.around order by u.position))[1] around
            from scan_use u where u.scan_id = :scan and u.how = 0 and not u.test and u.key = any(:keys) group by u.key, coalesce(u.context, '')
            """;

    private static final String BY_USE =
            """
            select e.id, t.slug, t.name, e.key, e.source, c.since from code_use c join %s on c.entry_id = e.id
            where c.product_id = :product and c.how = :how and e.removed_at is null and (e.key, e.id) > (:after, :afterId)
            order by e.key, e.id limit :most
            """
                    .formatted(OF_PRODUCT);
    private static final String USE_COUNTS =
            "select c.how, count(*) from code_use c join %s on c.entry_id = e.id where c.product_id = :product and e.removed_at is null group by c.how"
                    .formatted(OF_PRODUCT);

    /** Keys and names of resources are met each by itself: where either may be, every use would be held against every entry. */
    private static final String DIFFERING_ARM =
            """
            select u.position, e.id, t.slug, e.key, e.source, u.said, u.path, u.line, u.around
            from scan_use u join %s on %s = u.key
            where u.scan_id = :scan and u.how = 0 and u.folded = %s and u.said is not null and u.said <> e.source and e.removed_at is null
              and e.shape = 'plain' and (u.context is null or u.context = e.context)
            """;

    private static final String DIFFERING = "select * from ("
            + DIFFERING_ARM.formatted(OF_PRODUCT, "e.key", "false")
            + " union all "
            + DIFFERING_ARM.formatted(OF_PRODUCT, FOLDED, "true")
            + ") d";
    private static final String GIVEN =
            """
            select u.position, e.id, t.slug, e.key, e.source, u.given, u.names, u.path, u.line, u.around
            from scan_use u join %s on %s = u.key
            where u.scan_id = :scan and u.how = 0 and u.given is not null and u.folded = :folded and e.removed_at is null and e.shape = 'plain'
              and (u.context is null or u.context = e.context)
            order by u.position limit :most
            """;

    private static final String DECIDED =
            """
            left join text_decision d on d.product_id = :product and d.path = x.path and d.text_hash = sha256(convert_to(x.text, 'UTF8'))
              and (d.decision <> 'taken' or exists (select 1 from entry e where e.id = d.entry_id and e.removed_at is null))
            """;
    private static final String TEXTS =
            """
            select x.*, coalesce(d.decision, 'open') decided, d.entry_id, (select e.key from entry e where e.id = d.entry_id) entry_key,
                   (select min(e.key) from %s where md5(e.source) = md5(x.text) and e.source = x.text and e.removed_at is null and e.translatable and e.shape = 'plain') known
            from scan_text x %s
            where x.scan_id = :scan and x.position > :after and coalesce(d.decision, 'open') = :decision order by x.position limit :most
            """
                    .formatted(OF_PRODUCT, DECIDED);
    private static final String DECISION_COUNTS =
            "select coalesce(d.decision, 'open') decided, count(*) from scan_text x %s where x.scan_id = :scan group by 1"
                    .formatted(DECIDED);

    private static final String SCANS =
            """
            select s.*, p.name person from scan s join person p on p.id = s.person_id where s.product_id = :product and %s order by %s desc, s.id desc limit 1
            """;

    private final ProductService products;
    private final CodeSettingsService settings;
    private final RunService runs;
    private final JdbcClient jdbc;

    CodeLists(ProductService products, CodeSettingsService settings, RunService runs, JdbcClient jdbc) {
        this.products = products;
        this.settings = settings;
        this.runs = runs;
        this.jdbc = jdbc;
    }

    /** Everything in figures. */
    @Transactional(readOnly = true)
    public CodeOverview overview(String slug) {
        ProductReply product = products.find(slug);
        @Nullable ScanReply last = scan(product.id(), "s.done_at is not null", "s.done_at");
        @Nullable ScanReply newest = scan(product.id(), "true", "s.begun_at");
        boolean later = newest != null && newest.doneAt() == null && (last == null || newest.id() > last.id());
        if (last == null) {
            return new CodeOverview(null, later ? newest : null, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0);
        }
        Map<String, Integer> uses = new HashMap<>();
        jdbc.sql(USE_COUNTS)
                .param("product", product.id())
                .query((row, n) -> uses.put(CodeUseKind.values()[row.getInt(1)].name(), row.getInt(2)))
                .list();
        Map<String, Integer> decisions = new HashMap<>();
        jdbc.sql(DECISION_COUNTS)
                .param("product", product.id())
                .param("scan", last.id())
                .query((row, n) -> decisions.put(row.getString(1), row.getInt(2)))
                .list();
        int missing = jdbc.sql(MISSING_COUNT)
                .param("product", product.id())
                .param("scan", last.id())
                .param("after", "")
                .param("afterContext", "")
                .query(Integer.class)
                .single();
        int differing = jdbc.sql("select count(*) from (" + DIFFERING + ") c")
                .param("product", product.id())
                .param("scan", last.id())
                .query(Integer.class)
                .single();
        return new CodeOverview(
                last,
                later ? newest : null,
                uses.getOrDefault(CodeUseKind.USED.name(), 0),
                uses.getOrDefault(CodeUseKind.MAYBE.name(), 0),
                uses.getOrDefault(CodeUseKind.TESTS.name(), 0),
                uses.getOrDefault(CodeUseKind.UNUSED.name(), 0),
                missing,
                differing,
                misfits(product, last.id()).size(),
                decisions.getOrDefault("open", 0),
                decisions.getOrDefault("later", 0),
                decisions.getOrDefault("ignored", 0),
                decisions.getOrDefault("taken", 0));
    }

    private @Nullable ScanReply scan(long product, String which, String by) {
        return jdbc.sql(SCANS.formatted(which, by))
                .param("product", product)
                .query((row, n) -> scan(row))
                .optional()
                .orElse(null);
    }

    /** A look by its number. */
    @Transactional(readOnly = true)
    public ScanReply scan(String slug, long scan) {
        ProductReply product = products.find(slug);
        return jdbc.sql(
                        "select s.*, p.name person from scan s join person p on p.id = s.person_id where s.product_id = :product and s.id = :scan")
                .param("product", product.id())
                .param("scan", scan)
                .query((row, n) -> scan(row))
                .optional()
                .orElseThrow(CodeLists::noScan);
    }

    private ScanReply scan(ResultSet row) throws SQLException {
        JsonNode skipped = JSON.readTree(row.getString("skipped"));
        JsonNode compared = JSON.readTree(row.getString("compared"));
        @Nullable Timestamp done = row.getTimestamp("done_at");
        RunReply run = runs.latest(Scanning.RUN, row.getLong("id")).orElse(null);
        String status = done != null ? "done" : run == null ? "lost" : run.status();
        return new ScanReply(
                row.getLong("id"),
                row.getString("name"),
                row.getString("person"),
                row.getTimestamp("begun_at").toInstant(),
                done == null ? null : done.toInstant(),
                status,
                run == null ? 0 : run.done(),
                run == null ? 0 : run.total(),
                run == null ? "" : run.message(),
                row.getInt("files"),
                row.getLong("lines"),
                skipped.path("ignored").asInt(0),
                skipped.path("binary").asInt(0),
                skipped.path("large").asInt(0),
                compared.has("keysNew"),
                compared.path("keysNew").asInt(0),
                compared.path("keysGone").asInt(0),
                compared.path("textsNew").asInt(0),
                compared.path("textsGone").asInt(0),
                compared.path("textsMoved").asInt(0));
    }

    static Refusal noScan() {
        return Refusal.notFound("no-scan", "The code of this product was not looked through yet.");
    }

    /** The number of the product's last look. */
    long last(ProductReply product) {
        ScanReply last = scan(product.id(), "s.done_at is not null", "s.done_at");
        if (last == null) {
            throw noScan();
        }
        return last.id();
    }

    /** Refuses whoever looks at an earlier look: its numbers are those of other texts now. */
    void requireLast(ProductReply product, long scan) {
        if (last(product) != scan) {
            throw Refusal.conflict(
                    "looked-again", "The code was looked through again meanwhile; look at the list again.", Map.of());
        }
    }

    /** A key as code asks for it, in a context or, with an empty one, in any. */
    record Asked(String key, String context) {
        static final Asked FIRST = new Asked("", "");
    }

    /** Keys that no table has, in the order of keys and contexts, after one. */
    @Transactional(readOnly = true)
    public List<MissingKey> missing(String slug, Asked after) {
        ProductReply product = products.find(slug);
        return missing(product, last(product), after, PAGE);
    }

    List<MissingKey> missing(ProductReply product, long scan, Asked after, int most) {
        Map<Asked, Boolean> folded = new LinkedHashMap<>();
        jdbc.sql(MISSING_PAGE)
                .param("product", product.id())
                .param("scan", scan)
                .param("after", after.key())
                .param("afterContext", after.context())
                .param("most", most)
                .query((row, n) -> folded.put(new Asked(row.getString(1), row.getString(3)), row.getBoolean(2)))
                .list();
        Map<Asked, MissingKey> found = new HashMap<>();
        jdbc.sql(PLACES_OF)
                .param("scan", scan)
                .param(
                        "keys",
                        folded.keySet().stream().map(Asked::key).distinct().toArray(String[]::new))
                .query((row, n) -> {
                    String key = row.getString("key");
                    Asked asked = new Asked(key, row.getString("context"));
                    boolean name = Boolean.TRUE.equals(folded.get(asked));
                    return found.put(
                            asked,
                            new MissingKey(
                                    key,
                                    asked.context(),
                                    name,
                                    name ? key.replace('_', '.') : key,
                                    row.getInt("places"),
                                    row.getString("path"),
                                    row.getInt("line"),
                                    row.getString("around"),
                                    row.getString("said"),
                                    Objects.requireNonNullElse(row.getString("note"), ""),
                                    row.getBoolean("fresh")));
                })
                .list();
        return folded.keySet().stream().map(found::get).filter(Objects::nonNull).toList();
    }

    /** Entries by how the code uses them, in the order of keys, after one. */
    @Transactional(readOnly = true)
    public List<CodeEntry> entries(String slug, String how, String after, long afterId) {
        ProductReply product = products.find(slug);
        CodeUseKind kind = Arrays.stream(CodeUseKind.values())
                .filter(one -> one.name().toLowerCase(Locale.ROOT).equals(how))
                .findFirst()
                .orElseThrow(() -> Refusal.unacceptable(
                        "unknown-use",
                        "Entries are used, maybe, tests or unused, not “{how}”.",
                        Map.of("field", "how", "how", how)));
        return jdbc.sql(BY_USE)
                .param("product", product.id())
                .param("how", kind.code())
                .param("after", after)
                .param("afterId", afterId)
                .param("most", PAGE)
                .query((row, n) -> new CodeEntry(
                        row.getLong(1),
                        row.getString(2),
                        row.getString(3),
                        row.getString(4),
                        row.getString(5),
                        row.getTimestamp(6).toInstant()))
                .list();
    }

    /** Places whose text differs from the source, in the order of the code, the first of them. */
    @Transactional(readOnly = true)
    public List<DifferingText> differing(String slug) {
        ProductReply product = products.find(slug);
        return jdbc.sql(DIFFERING + " order by position limit :most")
                .param("product", product.id())
                .param("scan", last(product))
                .param("most", PAGE)
                .query((row, n) -> new DifferingText(
                        row.getLong("id"),
                        row.getString("slug"),
                        row.getString("key"),
                        row.getString("source"),
                        row.getString("said"),
                        row.getString("path"),
                        row.getInt("line"),
                        row.getString("around")))
                .list();
    }

    /** Places that put other values in than the text has places for, in the order of the code. */
    @Transactional(readOnly = true)
    public List<MisfitValues> misfits(String slug) {
        ProductReply product = products.find(slug);
        List<MisfitValues> all = misfits(product, last(product));
        return all.subList(0, Math.min(all.size(), PAGE));
    }

    private List<MisfitValues> misfits(ProductReply product, long scan) {
        List<MisfitValues> found = new ArrayList<>();
        for (boolean folded : new boolean[] {false, true}) {
            jdbc.sql(GIVEN.formatted(OF_PRODUCT, folded ? FOLDED : "e.key"))
                    .param("product", product.id())
                    .param("scan", scan)
                    .param("folded", folded)
                    .param("most", MOST_COMPARED)
                    .query((row, n) -> {
                        String[] names = (String[]) row.getArray("names").getArray();
                        Misfit misfit = GivenValues.misfit(
                                row.getString("source"), new Values(row.getInt("given"), List.of(names)));
                        if (!misfit.none()) {
                            found.add(new MisfitValues(
                                    row.getLong("id"),
                                    row.getString("slug"),
                                    row.getString("key"),
                                    row.getString("source"),
                                    misfit.missing(),
                                    misfit.needless(),
                                    row.getString("path"),
                                    row.getInt("line"),
                                    row.getString("around")));
                        }
                        return n;
                    })
                    .list();
        }
        return found;
    }

    /** Texts without keys about which that was decided, in the order of the code, after one. */
    @Transactional(readOnly = true)
    public List<TextWithoutKey> texts(String slug, long scan, String decision, int after) {
        ProductReply product = products.find(slug);
        requireLast(product, scan);
        List<Rewrite> rewrites = settings.of(product).asRewrites();
        return jdbc.sql(TEXTS)
                .param("product", product.id())
                .param("scan", scan)
                .param("decision", decision)
                .param("after", after)
                .param("most", PAGE)
                .query((row, n) -> text(row, rewrites))
                .list();
    }

    private static TextWithoutKey text(ResultSet row, List<Rewrite> rewrites) throws SQLException {
        String path = row.getString("path");
        String kind = row.getString("kind");
        String known = row.getString("known");
        HardText.Kind of = CodeSettings.kind(kind);
        return new TextWithoutKey(
                row.getInt("position"),
                path,
                row.getInt("line"),
                row.getString("around"),
                row.getString("text"),
                kind,
                row.getInt("likelihood"),
                row.getBoolean("composed"),
                row.getString("lines") != null && rewrites.stream().anyMatch(one -> one.holds(path, of)),
                row.getBoolean("fresh"),
                known != null ? known : KeyNames.propose(path, row.getString("text"), Set.of()),
                known != null,
                row.getString("decided"),
                row.getObject("entry_id", Long.class),
                row.getString("entry_key"));
    }
}
