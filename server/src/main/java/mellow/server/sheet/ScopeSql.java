package mellow.server.sheet;

import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import mellow.core.cell.CellState;
import mellow.core.text.Folding;
import mellow.server.common.Coded;
import mellow.server.sheet.Scope.Order;
import mellow.server.table.TableInfo;
import mellow.server.table.TableInfo.Kept;
import org.springframework.jdbc.core.namedparam.MapSqlParameterSource;

/** The query of a scope: one statement that gives its entries in order. */
final class ScopeSql {

    private static final String IN_TABLES =
            "select e.id, e.section, e.table_id from entry e where e.table_id = any(:tables) and e.removed_at is null";
    /** These states are few and have an index of their own. */
    private static final String IN_RARE_STATES = Coded.sql(
            "e.id in (select c.entry_id from cell c where c.language_id = any(:languages) and c.state = any(:rare) and c.state not in ({state.settled}, {state.untranslated}))");

    private static final String SETTLED = Coded.sql(
            "e.id in (select c.entry_id from cell c where c.language_id = any(:languages) and c.state = {state.settled})");
    /** An entry is untranslated somewhere when fewer of the shown languages than its table is kept in have anything. */
    private static final String UNTRANSLATED = Coded.sql(
            """
            (e.table_id = any(:tables%1$d) and e.id not in (
                select c.entry_id from cell c where c.language_id = any(:languages%1$d) and c.state <> {state.untranslated}
                group by c.entry_id having count(*) = :shown%1$d))
            """);

    private static final String UNTRANSLATED_IN_ONE = Coded.sql(
            """
            (e.table_id = any(:tables%1$d) and e.id not in (
                select c.entry_id from cell c where c.language_id = any(:languages%1$d) and c.state <> {state.untranslated}))
            """);

    private static final String WITH_WORDS =
            """
             and (e.key || E'\\n' || coalesce(e.source_folded, e.source) || E'\\n' || coalesce(e.note_folded, e.note) ilike :words
                  or e.id in (
                    select c.entry_id from cell c where not c.unindexed and c.language_id = any(:languages) and coalesce(c.folded, c.text) ilike :words
                    union all
                    select c.entry_id from cell c where c.unindexed and c.language_id = any(:languages) and coalesce(c.folded, c.text) ilike :words))
            """;
    private static final String OF_PERSON = Coded.sql(
            """
             and (e.id in (select c.entry_id from cell c where c.language_id = any(:languages) and c.author_id = :person)
                  or e.id in (select o.entry_id from offer o where o.language_id = any(:languages) and o.author_id = :person and o.answer = {answer.open}))
            """);
    private static final String SINCE =
            """
             and (e.changed_at >= :since
                  or e.id in (select c.entry_id from cell c where c.language_id = any(:languages) and c.changed_at >= :since))
            """;
    private static final String ASKED = " and e.id in (select q.entry_id from question q where q.answer is null)";
    private static final Map<Order, String> ORDERS = Map.of(
            Order.KEY, " order by e.key, e.context, e.id",
            Order.LENGTH, " order by length(e.source) desc, e.position, e.id",
            Order.SHORT, " order by length(e.source), e.position, e.id",
            Order.CHANGED,
                    """
                     order by greatest(e.changed_at, (
                        select max(c.changed_at) from cell c where c.entry_id = e.id and c.language_id = any(:languages))) desc, e.id
                    """,
            Order.STATE,
                    """
                     order by coalesce((select c.state from cell c where c.entry_id = e.id and c.language_id = :first), 5), e.position, e.id
                    """);
    private static final String FROM_INTAKE =
            " and e.id in (select entry_id from intake_entry where intake_id = :intake)";

    private static final String FOUND =
            """
             and e.id in (select m.entry_id from finding_mask m
                where m.table_id = any(:tables) and m.language_id = any(:languages) and (m.stops & :stops <> 0 or m.minds & :minds <> 0))
            """;

    private static final String UNFIT =
            """
             and e.id in (select f.entry_id from scene_finding f join scene s on s.id = f.scene_id and s.removed_at is null
                where f.wrong and f.language_id = any(:languages))
            """;

    private static final String USES =
            "select c.entry_id from code_use c join product p on p.id = c.product_id and p.removed_at is null join entry x on x.id = c.entry_id"
                    + " join product_table pt on pt.product_id = p.id and pt.table_id = x.table_id where c.how ";
    private static final Map<Scope.Code, String> CODE = Map.of(
            Scope.Code.USED,
            " and e.id in (" + USES + "= 3)",
            Scope.Code.UNUSED,
            " and e.id in (" + USES + "= 0) and e.id not in (" + USES + "> 0)");

    private final StringBuilder sql = new StringBuilder(IN_TABLES);
    private final MapSqlParameterSource params = new MapSqlParameterSource();

    ScopeSql(Scope scope, List<TableInfo> tables, Set<Integer> languages) {
        params.addValue("tables", tables.stream().map(TableInfo::id).toArray(Long[]::new));
        params.addValue("languages", languages.toArray(Integer[]::new));
        if (!scope.only().isEmpty() && !languages.isEmpty()) {
            states(scope.only(), tables, languages);
        }
        if (scope.words() != null && !scope.words().isBlank()) {
            sql.append(WITH_WORDS);
            params.addValue("words", "%" + escaped(Folding.fold(scope.words().strip())) + "%");
        }
        if (scope.section() != null) {
            sql.append(" and e.section = :section");
            params.addValue("section", scope.section());
        }
        if (scope.tag() != null) {
            sql.append(" and :tag = any(e.tags)");
            params.addValue("tag", scope.tag());
        }
        if (scope.person() != null) {
            sql.append(OF_PERSON);
            params.addValue("person", scope.person());
        }
        if (scope.since() != null) {
            sql.append(SINCE);
            params.addValue("since", scope.since().atOffset(ZoneOffset.UTC));
        }
        if (scope.intake() != null) {
            sql.append(FROM_INTAKE);
            params.addValue("intake", scope.intake());
        }
        if (scope.asked()) {
            sql.append(ASKED);
        }
        if (Scope.Check.UNFIT.equals(scope.check())) {
            sql.append(UNFIT);
        } else if (scope.check() != null) {
            sql.append(FOUND);
            params.addValue("stops", scope.check().stops());
            params.addValue("minds", scope.check().minds());
        }
        if (scope.code() != null) {
            sql.append(CODE.get(scope.code()));
        }
        String order = ORDERS.get(scope.order());
        if (order != null) {
            sql.append(order);
            params.addValue("first", languages.stream().findFirst().orElse(0));
        } else if (tables.size() == 1) {
            sql.append(" order by e.position, e.id");
        } else {
            sql.append(" order by array_position(:tables, e.table_id), e.position, e.id");
        }
    }

    private void states(Set<CellState> only, List<TableInfo> tables, Set<Integer> languages) {
        List<String> any = new ArrayList<>();
        Set<CellState> rare = EnumSet.copyOf(only);
        rare.remove(CellState.SETTLED);
        rare.remove(CellState.UNTRANSLATED);
        if (!rare.isEmpty()) {
            any.add(IN_RARE_STATES);
            params.addValue(
                    "rare", rare.stream().map(state -> (short) state.ordinal()).toArray(Short[]::new));
        }
        if (only.contains(CellState.SETTLED)) {
            any.add(SETTLED);
        }
        if (only.contains(CellState.UNTRANSLATED)) {
            int n = 0;
            for (Map.Entry<List<Integer>, List<Long>> group :
                    byLanguages(tables, languages).entrySet()) {
                List<Integer> kept = group.getKey();
                any.add(String.format(kept.size() == 1 ? UNTRANSLATED_IN_ONE : UNTRANSLATED, n));
                params.addValue("tables" + n, group.getValue().toArray(Long[]::new));
                params.addValue("languages" + n, kept.toArray(Integer[]::new));
                params.addValue("shown" + n, kept.size());
                n++;
            }
        }
        sql.append(" and e.translatable and (")
                .append(any.isEmpty() ? "false" : String.join(" or ", any))
                .append(')');
    }

    /** Tables by which of the shown languages they are kept in. */
    private static Map<List<Integer>, List<Long>> byLanguages(List<TableInfo> tables, Set<Integer> languages) {
        Map<List<Integer>, List<Long>> groups = new LinkedHashMap<>();
        for (TableInfo table : tables) {
            List<Integer> kept = table.languages().stream()
                    .map(Kept::number)
                    .filter(languages::contains)
                    .toList();
            if (!kept.isEmpty()) {
                groups.computeIfAbsent(kept, k -> new ArrayList<>()).add(table.id());
            }
        }
        return groups;
    }

    private static String escaped(String words) {
        return words.replace("\\", "\\\\").replace("%", "\\%").replace("_", "\\_");
    }

    String sql() {
        return sql.toString();
    }

    MapSqlParameterSource params() {
        return params;
    }
}
