package mellow.server.record;

import java.util.ArrayList;
import java.util.List;
import java.util.SortedMap;
import javax.sql.DataSource;
import mellow.core.check.Finding;
import mellow.core.check.Measure;
import mellow.core.text.Shape;
import mellow.server.common.Coded;
import mellow.server.common.TextColumns;
import mellow.server.record.BulkUndo.Since;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.stereotype.Component;

/**
 * Which texts come back pencilled when an intake is taken back: they were settled before it, are not in force now, and would not pass the checks beside the
 * source and the limits that their entries get back. Works on {@code taken_cell} of the transaction.
 */
@Component
public class Lowering {

    private static final int FETCH = 2_000;
    private static final int AT_ONCE = 5_000;

    private static final String COMING_INTO_FORCE = Coded.sql(
            """
            select t.entry_id, t.language_id, e.table_id, e.key, l.tag, t.text, t.forms, e.shape, e.max_width, coalesce(w.source, e.source) source,
                case when w.source is null then e.source_forms else w.source_forms end source_forms, coalesce(w.max_length, e.max_length) max_length, e.max_lines
            from taken_cell t
            join cell c on c.entry_id = t.entry_id and c.language_id = t.language_id
            join entry e on e.id = t.entry_id
            join language l on l.id = t.language_id
            left join intake_entry_was w on w.intake_id = ? and w.entry_id = e.id
            where t.standing = {standing.settled} and (not t.since or ?)
              and not (c.standing = {standing.settled} and c.text is not distinct from t.text and c.forms is not distinct from t.forms)
            """);
    private static final String LOWER = Coded.sql(
            """
            update taken_cell t set standing = {standing.pencilled}
            from unnest(?::bigint[], ?::int[]) k (e, l) where t.entry_id = k.e and t.language_id = k.l
            """);

    /** Says what stops a text of a cell beside what it is measured by. */
    @FunctionalInterface
    public interface Judge {
        List<Finding> against(long entry, long table, int language, Measure measure, SortedMap<String, String> text);
    }

    private final JdbcTemplate jdbc;

    Lowering(DataSource database) {
        this.jdbc = new JdbcTemplate(database);
        this.jdbc.setFetchSize(FETCH);
    }

    /**
     * Marks them.
     *
     * @param all whether texts that were changed since are put back too
     * @param judge says what stops a text
     * @return each with what the checks say
     */
    public List<Since> lower(long intake, boolean all, Judge judge) {
        List<Since> lowered = new ArrayList<>();
        List<Long> entries = new ArrayList<>();
        List<Integer> languages = new ArrayList<>();
        jdbc.query(
                COMING_INTO_FORCE,
                row -> {
                    Measure measure = new Measure(
                            Shape.of(row.getString("shape")).orElseThrow(),
                            TextColumns.allForms(row.getString("source"), row.getString("source_forms")),
                            row.getInt("max_length"),
                            row.getInt("max_lines"),
                            row.getInt("max_width"));
                    List<Finding> blockers = judge.against(
                            row.getLong("entry_id"),
                            row.getLong("table_id"),
                            row.getInt("language_id"),
                            measure,
                            TextColumns.allForms(row.getString("text"), row.getString("forms")));
                    if (!blockers.isEmpty()) {
                        entries.add(row.getLong("entry_id"));
                        languages.add(row.getInt("language_id"));
                        lowered.add(new Since(
                                row.getString("key"),
                                row.getString("tag"),
                                blockers.get(0).sentence()));
                    }
                },
                intake,
                all);
        for (int from = 0; from < entries.size(); from += AT_ONCE) {
            int to = Math.min(entries.size(), from + AT_ONCE);
            jdbc.update(
                    LOWER,
                    (Object) entries.subList(from, to).toArray(Long[]::new),
                    languages.subList(from, to).toArray(Integer[]::new));
        }
        return lowered;
    }
}
