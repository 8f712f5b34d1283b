package mellow.server.check;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.SortedMap;
import mellow.core.check.Checks;
import mellow.core.check.Finding;
import mellow.core.check.Masks;
import mellow.core.check.Measure;
import mellow.core.text.Shape;
import mellow.server.check.Exceptions.Allowed;
import mellow.server.common.TextColumns;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.RowCallbackHandler;
import org.springframework.jdbc.core.simple.JdbcClient;

/**
 * What the checks find in the texts of entries as they are now, read from the record. Everything but {@code otherwise}, which no single text shows. Nothing is
 * found in entries that are removed, nor in texts of entries that are not for translation.
 */
public final class MaskReader {

    private static final String CELLS =
            """
            with said as (
                select entry_id, array_agg(language_id || ' ' || kind || ' ' || said) said from check_exception where entry_id = any(:entries) group by 1)
            select e.id, e.table_id, e.key, %s, e.translatable, e.removed_at is null alive, c.language_id, c.text, c.forms, x.said
            from entry e left join cell c on c.entry_id = e.id and (:languages::int[] is null or c.language_id = any(:languages))
            left join said x on x.entry_id = e.id
            where e.id = any(:entries) order by e.id
            """
                    .formatted(MeasureColumns.OF_ENTRY);

    private final JdbcClient jdbc;
    private final Grounds grounds;

    /** Reads from {@code jdbc}. */
    public MaskReader(JdbcClient jdbc, Grounds grounds) {
        this.jdbc = jdbc;
        this.grounds = grounds;
    }

    /**
     * What was found in a text; in the table's source language, in the source.
     *
     * @param masks none for a sound text
     */
    public record Found(long entry, int language, long table, Masks masks) {}

    /**
     * Looks at texts of entries.
     *
     * @param languages only those in these languages, and no source; null for all of them and the sources
     */
    public List<Found> of(List<Long> entries, Integer @Nullable [] languages) {
        Long[] ids = entries.toArray(Long[]::new);
        Allowed allowed = new Allowed();
        List<Found> found = new ArrayList<>();
        long[] last = {-1};
        jdbc.sql(CELLS).param("entries", ids).param("languages", languages).query((RowCallbackHandler) row -> {
            Measure measure = MeasureColumns.read(row);
            boolean first = row.getLong("id") != last[0];
            last[0] = row.getLong("id");
            if (first && row.getArray("said") != null) {
                allowed.note(row.getLong("id"), (String[]) row.getArray("said").getArray());
            }
            if (first && languages == null) {
                found.add(source(row, measure, allowed));
            }
            if (row.getObject("language_id") != null) {
                found.add(text(row, measure, allowed));
            }
        });
        return found;
    }

    private Found source(ResultSet row, Measure measure, Allowed allowed) throws SQLException {
        long table = row.getLong("table_id");
        int language = grounds.sourceLanguage(table);
        long entry = row.getLong("id");
        if (!row.getBoolean("alive")) {
            return new Found(entry, language, table, Masks.NONE);
        }
        List<Finding> findings = Checks.ofSource(measure, row.getString("key"), grounds.of(table, language));
        return new Found(
                entry,
                language,
                table,
                Masks.of(allowed.without(findings, entry, language, measure.source(), measure.source())));
    }

    private Found text(ResultSet row, Measure measure, Allowed allowed) throws SQLException {
        long entry = row.getLong("id");
        int language = row.getInt("language_id");
        long table = row.getLong("table_id");
        SortedMap<String, String> text = TextColumns.allForms(row.getString("text"), row.getString("forms"));
        if (text.isEmpty()
                || measure.shape() == Shape.ASSET
                || !row.getBoolean("alive")
                || !row.getBoolean("translatable")) {
            return new Found(entry, language, table, Masks.NONE);
        }
        List<Finding> findings = Checks.found(measure, text, grounds.of(table, language));
        return new Found(
                entry, language, table, Masks.of(allowed.without(findings, entry, language, measure.source(), text)));
    }
}
