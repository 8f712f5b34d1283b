package mellow.server.sheet;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import mellow.core.cell.CellState;
import mellow.core.language.LanguageTag;
import mellow.server.cell.CellReader;
import mellow.server.cell.CellView;
import mellow.server.common.Refusal;
import mellow.server.sheet.Scope.Order;
import mellow.server.table.TableInfo;
import mellow.server.table.TableInfo.Kept;
import mellow.server.table.TableService;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.namedparam.MapSqlParameterSource;
import org.springframework.jdbc.core.namedparam.NamedParameterJdbcTemplate;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Answers a scope with the entries in it, and gives the rows of any of them. Keeps no state between requests. */
@Service
class SheetService {

    /** More rows than any screen shows at once; keeps one request cheap. */
    static final int LARGEST_PAGE = 200;

    private static final int FETCH = 20_000;
    private static final String IN_TABLE =
            "select e.id, e.section from entry e where e.table_id = :table and e.removed_at is null";
    private static final String IN_STATES =
            " and e.translatable and (exists (select 1 from cell c where c.entry_id = e.id and c.language_id = any(:languages) and c.state = any(:states))";
    private static final String OR_UNTRANSLATED =
            " or (select count(*) from cell c where c.entry_id = e.id and c.language_id = any(:languages) and c.state <> 5) < :shown";
    private static final String WITH_WORDS =
            """
             and (e.key ilike :words or e.source ilike :words
                  or exists (select 1 from cell c where c.entry_id = e.id and c.language_id = any(:languages) and c.text ilike :words))
            """;
    private static final String FROM_INTAKE =
            " and e.id in (select entry_id from intake_entry where intake_id = :intake)";
    private static final String ROWS = "select * from entry where table_id = :table and id = any(:ids)";
    private static final String REWRITTEN =
            """
            select distinct on (entry_id) entry_id, before, at from entry_story
            where entry_id = any(:ids) and what = 'source_rewritten' order by entry_id, id desc
            """;

    private final TableService tables;
    private final CellReader cells;
    private final JdbcClient jdbc;
    private final NamedParameterJdbcTemplate streaming;

    SheetService(TableService tables, CellReader cells, JdbcClient jdbc, javax.sql.DataSource database) {
        this.tables = tables;
        this.cells = cells;
        this.jdbc = jdbc;
        JdbcTemplate template = new JdbcTemplate(database);
        template.setFetchSize(FETCH);
        this.streaming = new NamedParameterJdbcTemplate(template);
    }

    /** The entries in {@code scope}, in order. */
    @Transactional(readOnly = true)
    public ScopeReply open(Scope scope) {
        TableInfo table = tables.find(scope.table());
        Short[] languages =
                shown(table, scope.languages()).stream().map(Kept::number).toArray(Short[]::new);
        MapSqlParameterSource params = new MapSqlParameterSource("table", table.id()).addValue("languages", languages);
        StringBuilder sql = new StringBuilder(IN_TABLE);
        if (!scope.only().isEmpty() && languages.length > 0) {
            sql.append(IN_STATES);
            params.addValue(
                    "states",
                    scope.only().stream().map(state -> (short) state.ordinal()).toArray(Short[]::new));
            if (scope.only().contains(CellState.UNTRANSLATED)) {
                sql.append(OR_UNTRANSLATED);
                params.addValue("shown", languages.length);
            }
            sql.append(')');
        }
        if (scope.words() != null && !scope.words().isBlank()) {
            sql.append(WITH_WORDS);
            params.addValue(
                    "words",
                    "%"
                            + scope.words()
                                    .strip()
                                    .replace("\\", "\\\\")
                                    .replace("%", "\\%")
                                    .replace("_", "\\_") + "%");
        }
        if (scope.intake() != null) {
            sql.append(FROM_INTAKE);
            params.addValue("intake", scope.intake());
        }
        sql.append(scope.order() == Order.KEY ? " order by e.key, e.context" : " order by e.position");
        Entries entries = new Entries(scope.order() == Order.SECTION);
        streaming.query(sql.toString(), params, (org.springframework.jdbc.core.RowCallbackHandler)
                row -> entries.add(row.getLong(1), row.getString(2)));
        return new ScopeReply(entries.deltas, entries.sections);
    }

    /** The rows of {@code ids} in the order asked for; entries that are gone meanwhile are absent. */
    @Transactional(readOnly = true)
    public List<RowReply> rows(String slug, List<Long> ids, List<LanguageTag> languages) {
        if (ids.size() > LARGEST_PAGE) {
            throw Refusal.unacceptable(
                    "page-too-large",
                    "At most " + LARGEST_PAGE + " rows can be asked for at once.",
                    Map.of("field", "ids"));
        }
        TableInfo table = tables.find(slug);
        Map<Long, List<CellView>> views = cells.read(
                ids, shown(table, languages).stream().map(Kept::number).toList());
        Map<Long, String> rewritten = new HashMap<>();
        Long[] idArray = ids.toArray(Long[]::new);
        jdbc.sql(REWRITTEN).param("ids", idArray).query(row -> {
            rewritten.put(row.getLong("entry_id"), row.getString("before"));
        });
        List<RowReply> rows = jdbc.sql(ROWS)
                .param("table", table.id())
                .param("ids", idArray)
                .query((row, n) -> new RowReply(
                        row.getLong("id"),
                        row.getString("key"),
                        row.getString("context"),
                        row.getString("source"),
                        row.getString("note"),
                        row.getString("reference"),
                        row.getString("section"),
                        row.getInt("max_length"),
                        row.getInt("source_revision"),
                        row.getInt("meaning_revision"),
                        rewritten.get(row.getLong("id")),
                        row.getTimestamp("removed_at") != null,
                        views.getOrDefault(row.getLong("id"), List.of())))
                .list();
        Map<Long, Integer> wanted = new HashMap<>();
        ids.forEach(id -> wanted.putIfAbsent(id, wanted.size()));
        return rows.stream()
                .sorted(Comparator.comparing(row -> Objects.requireNonNull(wanted.get(row.id()))))
                .toList();
    }

    private static List<Kept> shown(TableInfo table, List<LanguageTag> languages) {
        return languages.stream()
                .map(tag -> table.language(tag)
                        .orElseThrow(() -> Refusal.unacceptable(
                                "language-not-kept", "The table " + table.name() + " is not kept in " + tag + ".")))
                .toList();
    }

    /** Collects numbers as differences and sections as runs, while rows stream by. */
    private static final class Entries {
        private final List<Long> deltas = new ArrayList<>();
        private final List<SectionReply> sections = new ArrayList<>();
        private final boolean withSections;
        private long last;
        private @Nullable String section;

        Entries(boolean withSections) {
            this.withSections = withSections;
        }

        void add(long id, String inSection) {
            if (withSections && !inSection.equals(section)) {
                sections.add(new SectionReply(inSection, deltas.size()));
                section = inSection;
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
     */
    record SectionReply(String name, int at) {}

    /**
     * A row of the sheet.
     *
     * @param sourceBefore the source before it was last rewritten, null when it never was
     * @param cells the cells in the languages asked for; untouched ones are absent
     */
    record RowReply(
            long id,
            String key,
            String context,
            String source,
            String note,
            String reference,
            String section,
            int maxLength,
            int sourceRevision,
            int meaningRevision,
            @Nullable String sourceBefore,
            boolean removed,
            List<CellView> cells) {}
}
