package mellow.server.sheet;

import java.sql.Array;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.stream.Collectors;
import javax.sql.DataSource;
import mellow.core.asset.AssetFacts;
import mellow.core.cell.CellState;
import mellow.core.language.LanguageTag;
import mellow.core.text.Shape;
import mellow.server.cell.CellReader;
import mellow.server.cell.CellView;
import mellow.server.common.Refusal;
import mellow.server.common.TextColumns;
import mellow.server.file.AssetFactReader;
import mellow.server.file.FactsReply;
import mellow.server.language.LanguageService;
import mellow.server.people.Reading;
import mellow.server.product.ProductService;
import mellow.server.sheet.Scope.Order;
import mellow.server.table.TableInfo;
import mellow.server.table.TableInfo.Kept;
import mellow.server.table.TableService;
import mellow.server.table.TableService.Listed;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.RowCallbackHandler;
import org.springframework.jdbc.core.namedparam.NamedParameterJdbcTemplate;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Answers a scope with the entries in it, and gives the rows of any of them. Keeps no state between requests. */
@Service
public class SheetService {

    /** More rows than any screen shows at once; keeps one request cheap. */
    static final int LARGEST_PAGE = 200;

    private static final int FETCH = 20_000;
    private static final String ROWS =
            """
            select e.*, t.slug, (select count(*) from question q where q.entry_id = e.id and q.answer is null) open_questions,
              r.line_id, l.key line_key, lt.slug line_table,
              (select array_agg(g.tag) from recording_line k join language g on g.id = k.language_id
                where k.entry_id = e.id and k.was_based_on is not null) line_moved,
              (select count(*) from (
                select l.scene_id from scene_place l join scene s on s.id = l.scene_id and s.removed_at is null where l.entry_id = e.id
                union select l.scene_id from scene_place l join scene s on s.id = l.scene_id and s.removed_at is null
                join product_table p on p.product_id = s.product_id and p.table_id = e.table_id where l.list <> '' and starts_with(e.key, l.list)) used) scenes
            from entry e join ledger_table t on t.id = e.table_id and t.removed_at is null
            left join recording r on r.entry_id = e.id left join entry l on l.id = r.line_id left join ledger_table lt on lt.id = l.table_id where e.id = any(:ids)
            """;
    private static final String REWRITTEN =
            """
            select distinct on (entry_id) entry_id, before, at from entry_story
            where entry_id = any(:ids) and what = 'source_rewritten' order by entry_id, id desc
            """;

    private final TableService tables;
    private final ProductService products;
    private final LanguageService languages;
    private final CellReader cells;
    private final Scopes scopes;
    private final Reading reading;
    private final JdbcClient jdbc;
    private final NamedParameterJdbcTemplate streaming;

    SheetService(
            TableService tables,
            ProductService products,
            LanguageService languages,
            CellReader cells,
            Scopes scopes,
            Reading reading,
            JdbcClient jdbc,
            DataSource database) {
        this.tables = tables;
        this.products = products;
        this.languages = languages;
        this.cells = cells;
        this.scopes = scopes;
        this.reading = reading;
        this.jdbc = jdbc;
        JdbcTemplate template = new JdbcTemplate(database);
        template.setFetchSize(FETCH);
        this.streaming = new NamedParameterJdbcTemplate(template);
    }

    /** The entries in {@code scope}, in order. */
    @Transactional(readOnly = true)
    public ScopeReply open(Scope scope) {
        List<TableInfo> in = tablesOf(scope);
        Set<Integer> shown = shown(in, scope.languages());
        ScopeSql query = new ScopeSql(scope, in, shown);
        Map<Long, String> slugs = new HashMap<>();
        in.forEach(table -> slugs.put(table.id(), table.slug()));
        Entries entries = new Entries(scope.order() == Order.SECTION, slugs);
        streaming.query(query.sql(), query.params(), (RowCallbackHandler) row -> {
            entries.add(row.getLong(1), row.getString(2), row.getLong(3));
        });
        return new ScopeReply(entries.deltas, entries.sections);
    }

    /** The entries of a table where any of those languages is in one of those states. */
    @Transactional(readOnly = true)
    public Set<Long> entries(String table, List<LanguageTag> in, Set<String> states) {
        Set<CellState> only = Arrays.stream(CellState.values())
                .filter(state -> states.contains(state.word()))
                .collect(Collectors.toSet());
        Scope scope = new Scope(
                List.of(table), null, in, only, Order.KEY, null, null, null, null, null, null, false, null, null);
        List<TableInfo> tablesIn = tablesOf(scope);
        ScopeSql query = new ScopeSql(scope, tablesIn, shown(tablesIn, in));
        Set<Long> ids = new HashSet<>();
        streaming.query(query.sql(), query.params(), (RowCallbackHandler) row -> ids.add(row.getLong(1)));
        return ids;
    }

    /** The entries of the scope that a query string spells, in order. */
    @Transactional(readOnly = true)
    public List<Long> entries(String query) {
        Scope scope = scopes.of(query);
        List<TableInfo> in = tablesOf(scope);
        Set<Integer> shown = shown(in, scope.languages());
        return ids(new ScopeSql(scope, in, shown));
    }

    /**
     * What a scope's query string looks at, for who counts something beside the entries.
     *
     * @param tables numbers of its tables
     * @param languages numbers of its languages; all that its tables are kept in when it names none
     * @param entries the entries that its conditions leave, null when it has none
     */
    public record Looked(List<Long> tables, Set<Integer> languages, @Nullable List<Long> entries) {}

    /** The tables, languages and entries of a scope; whether something is found in texts is no condition here. */
    @Transactional(readOnly = true)
    public Looked looked(String query) {
        Scope scope = scopes.of(query).unchecked();
        List<TableInfo> in = tablesOf(scope);
        Set<Integer> shown = scope.languages().isEmpty()
                ? in.stream()
                        .flatMap(table -> table.languages().stream())
                        .map(Kept::number)
                        .collect(Collectors.toCollection(TreeSet::new))
                : shown(in, scope.languages());
        return new Looked(
                in.stream().map(TableInfo::id).toList(),
                shown,
                scope.narrowed() ? ids(new ScopeSql(scope, in, shown)) : null);
    }

    private List<Long> ids(ScopeSql query) {
        List<Long> ids = new ArrayList<>();
        streaming.query(query.sql(), query.params(), (RowCallbackHandler) row -> ids.add(row.getLong(1)));
        return ids;
    }

    /** The rows of {@code ids} in the order asked for; entries that are gone meanwhile are absent. */
    @Transactional(readOnly = true)
    public List<RowReply> rows(List<Long> ids, List<LanguageTag> in) {
        if (ids.size() > LARGEST_PAGE) {
            throw Refusal.unacceptable(
                    "page-too-large",
                    "At most {most} rows can be asked for at once.",
                    Map.of("field", "ids", "most", LARGEST_PAGE));
        }
        Map<Long, List<CellView>> views = cells.read(
                ids,
                in.stream()
                        .filter(reading::reads)
                        .flatMap(tag -> languages.known(tag).stream())
                        .toList());
        Map<Long, String> rewritten = new HashMap<>();
        Long[] idArray = ids.toArray(Long[]::new);
        jdbc.sql(REWRITTEN).param("ids", idArray).query(row -> {
            rewritten.put(row.getLong("entry_id"), row.getString("before"));
        });
        List<RowReply> rows = jdbc.sql(ROWS)
                .param("ids", idArray)
                .query((row, n) -> new RowReply(
                        row.getLong("id"),
                        row.getString("slug"),
                        row.getString("key"),
                        row.getString("context"),
                        row.getString("shape"),
                        row.getString("source"),
                        TextColumns.shown(row.getString("source_forms")),
                        row.getString("note"),
                        row.getString("reference"),
                        row.getString("section"),
                        row.getInt("max_length"),
                        row.getInt("max_lines"),
                        row.getInt("max_width"),
                        List.of((String[]) row.getArray("tags").getArray()),
                        row.getBoolean("translatable"),
                        row.getObject("picture_id", Long.class),
                        row.getInt("source_revision"),
                        row.getInt("meaning_revision"),
                        rewritten.get(row.getLong("id")),
                        row.getInt("version"),
                        row.getTimestamp("removed_at") != null,
                        row.getInt("open_questions"),
                        row.getInt("scenes"),
                        views.getOrDefault(row.getLong("id"), List.of()),
                        null,
                        null,
                        LineReply.of(row)))
                .list();
        Map<Long, Integer> wanted = new HashMap<>();
        ids.forEach(id -> wanted.putIfAbsent(id, wanted.size()));
        return new RowAssets(jdbc, reading)
                .told(rows).stream()
                        .sorted(Comparator.comparing(row -> Objects.requireNonNull(wanted.get(row.id()))))
                        .toList();
    }

    private List<TableInfo> tablesOf(Scope scope) {
        return tablesOf(scope.tables(), scope.product());
    }

    List<TableInfo> tablesOf(List<String> tables, @Nullable String product) {
        Set<String> wanted = new LinkedHashSet<>(tables);
        if (product != null) {
            products.find(product).tables().forEach(table -> wanted.add(table.slug()));
        }
        if (wanted.size() == 1) {
            return List.of(this.tables.find(wanted.iterator().next()));
        }
        Map<String, TableInfo> known = new LinkedHashMap<>();
        for (Listed listed : this.tables.all()) {
            known.put(listed.table().slug(), listed.table());
        }
        if (wanted.isEmpty() && product == null) {
            return List.copyOf(known.values());
        }
        return wanted.stream()
                .map(slug -> {
                    TableInfo table = known.get(slug);
                    if (table == null) {
                        throw Refusal.notFound(
                                "no-such-table", "There is no table \u201c{table}\u201d.", Map.of("table", slug));
                    }
                    return table;
                })
                .toList();
    }

    /** The numbers of the languages asked for; each has to be one that a table of the scope is kept in. */
    private static Set<Integer> shown(List<TableInfo> in, List<LanguageTag> asked) {
        Set<Integer> numbers = new TreeSet<>();
        for (LanguageTag tag : asked) {
            Integer number = in.stream()
                    .flatMap(table -> table.language(tag).stream())
                    .map(Kept::number)
                    .findFirst()
                    .orElseThrow(() -> Refusal.unacceptable(
                            "language-not-kept",
                            in.size() == 1
                                    ? "The table {table} is not kept in {language}."
                                    : "These tables are not kept in {language}.",
                            Map.of("table", in.isEmpty() ? "" : in.get(0).name(), "language", tag)));
            numbers.add(number);
        }
        return numbers;
    }

    /** Collects numbers as differences and sections as runs, while rows stream by. */
    private static final class Entries {
        private final List<Long> deltas = new ArrayList<>();
        private final List<SectionReply> sections = new ArrayList<>();
        private final boolean withSections;
        private final Map<Long, String> slugs;
        private long last;
        private long table = -1;
        private @Nullable String section;

        Entries(boolean withSections, Map<Long, String> slugs) {
            this.withSections = withSections;
            this.slugs = slugs;
        }

        void add(long id, String inSection, long inTable) {
            if (withSections && (inTable != table || !inSection.equals(section))) {
                sections.add(new SectionReply(inSection, deltas.size(), Objects.requireNonNull(slugs.get(inTable))));
                section = inSection;
                table = inTable;
            }
            deltas.add(id - last);
            last = id;
        }
    }

    /**
     * The entries in a scope.
     *
     * @param deltas each entry's number minus the one before it, the first minus 0; in table order mostly ones, so that it compresses to nothing
     * @param sections where each section begins
     */
    record ScopeReply(List<Long> deltas, List<SectionReply> sections) {}

    /**
     * A section.
     *
     * @param name its name, empty for none
     * @param at index of its first entry in the scope, 0-based
     * @param table the table's name in addresses
     */
    record SectionReply(String name, int at, String table) {}

    /**
     * The entry whose text a recording speaks.
     *
     * @param table its table's name in addresses
     * @param moved tags of the languages in which it was rewritten since it was recorded, that of its source among them
     */
    record LineReply(long entry, String table, String key, List<String> moved) {

        static @Nullable LineReply of(ResultSet row) throws SQLException {
            if (row.getString("line_key") == null) {
                return null;
            }
            Array moved = row.getArray("line_moved");
            return new LineReply(
                    row.getLong("line_id"),
                    row.getString("line_table"),
                    row.getString("line_key"),
                    moved == null ? List.of() : List.of((String[]) moved.getArray()));
        }
    }

    /**
     * A row of the sheet.
     *
     * @param table the table's name in addresses
     * @param shape plain, plural, states or asset
     * @param sourceForms the source by form, null for a plain one
     * @param sourceBefore the source before it was last rewritten, null when it never was
     * @param version the entry's version, to be sent back with a change of it
     * @param openQuestions number of questions that nobody has answered
     * @param scenes number of scenes that were drawn with it
     * @param cells the cells in the languages asked for; untouched ones are absent
     * @param assets what the files that its texts and offers name are, by their numbers; null for an entry of another shape
     * @param files the number of its file in each language that has one, those not asked for included; null for an entry of another shape
     * @param line the entry whose text it speaks, null for none
     */
    record RowReply(
            long id,
            String table,
            String key,
            String context,
            String shape,
            String source,
            @Nullable Map<String, String> sourceForms,
            String note,
            String reference,
            String section,
            int maxLength,
            int maxLines,
            int maxWidth,
            List<String> tags,
            boolean translatable,
            @Nullable Long picture,
            int sourceRevision,
            int meaningRevision,
            @Nullable String sourceBefore,
            int version,
            boolean removed,
            int openQuestions,
            int scenes,
            List<CellView> cells,
            @Nullable Map<Long, FactsReply> assets,
            @Nullable Map<String, Long> files,
            @Nullable LineReply line) {

        /** The numbers of the files that its texts and offers name. */
        Set<Long> named() {
            Set<Long> files = new HashSet<>();
            if (shape.equals(Shape.ASSET.word())) {
                note(sourceForms, files);
                for (CellView cell : cells) {
                    note(cell.forms(), files);
                    cell.offers().forEach(offer -> note(offer.forms(), files));
                }
            }
            return files;
        }

        private static void note(@Nullable Map<String, String> forms, Set<Long> files) {
            Optional.ofNullable(forms).flatMap(AssetFactReader::file).ifPresent(files::add);
        }

        RowReply with(Map<Long, AssetFacts> known, Map<String, Long> everywhere) {
            if (!shape.equals(Shape.ASSET.word())) {
                return this;
            }
            Map<Long, FactsReply> assets = new TreeMap<>();
            Set<Long> all = named();
            all.addAll(everywhere.values());
            for (long file : all) {
                FactsReply facts = FactsReply.of(known.get(file));
                if (facts != null) {
                    assets.put(file, facts);
                }
            }
            return new RowReply(
                    id,
                    table,
                    key,
                    context,
                    shape,
                    source,
                    sourceForms,
                    note,
                    reference,
                    section,
                    maxLength,
                    maxLines,
                    maxWidth,
                    tags,
                    translatable,
                    picture,
                    sourceRevision,
                    meaningRevision,
                    sourceBefore,
                    version,
                    removed,
                    openQuestions,
                    scenes,
                    cells,
                    assets,
                    everywhere,
                    line);
        }
    }
}
