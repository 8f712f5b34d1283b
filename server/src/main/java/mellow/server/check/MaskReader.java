package mellow.server.check;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.SortedMap;
import mellow.core.asset.AssetFacts;
import mellow.core.check.Checks;
import mellow.core.check.Finding;
import mellow.core.check.Ground;
import mellow.core.check.Masks;
import mellow.core.check.Measure;
import mellow.core.text.Shape;
import mellow.server.check.Exceptions.Allowed;
import mellow.server.common.TextColumns;
import mellow.server.file.AssetFactReader;
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
     * Which texts of entries are looked at.
     *
     * @param languages those in these languages, null for all
     * @param sources whether the sources too
     */
    public record Which(Integer @Nullable [] languages, boolean sources) {

        /** All of them. */
        public static final Which ALL = new Which(null, true);

        static final Which SOURCES = new Which(new Integer[0], true);

        /** Whether there are texts among them. */
        boolean texts() {
            return languages == null || languages.length > 0;
        }

        static Which in(Collection<Integer> languages) {
            return new Which(languages.toArray(Integer[]::new), false);
        }
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
     * @param which which of them
     */
    public List<Found> of(List<Long> entries, Which which) {
        return read(entries, which).look();
    }

    /** Reads what {@link #of} looks at. */
    Texts read(List<Long> entries, Which which) {
        Texts texts = new Texts();
        jdbc.sql(CELLS)
                .param("entries", entries.toArray(Long[]::new))
                .param("languages", which.languages)
                .query((RowCallbackHandler) row -> texts.add(row, which.sources));
        texts.facts = new AssetFactReader(jdbc).of(texts.files);
        return texts;
    }

    /** Texts that were read. Looking at them needs no database and may be done on another thread. */
    final class Texts {

        private final Allowed allowed = new Allowed();
        private final List<Line> lines = new ArrayList<>();
        private final Set<Long> files = new HashSet<>();
        private Map<Long, AssetFacts> facts = Map.of();
        private @Nullable Entry last;

        private Texts() {}

        /** What the lines of an entry have in common. */
        private record Entry(long id, long table, String key, Measure measure, boolean alive, boolean translatable) {}

        /**
         * One of them.
         *
         * @param text null for the source
         * @param ground null where nothing is to be found
         */
        private record Line(
                Entry entry, int language, @Nullable SortedMap<String, String> text, @Nullable Ground ground) {}

        private void add(ResultSet row, boolean sources) throws SQLException {
            Entry entry = last;
            if (entry == null || entry.id != row.getLong("id")) {
                entry = entry(row);
                last = entry;
                if (sources) {
                    int language = grounds.sourceLanguage(entry.table);
                    lines.add(new Line(entry, language, null, entry.alive ? grounds.of(entry.table, language) : null));
                }
            }
            int language = row.getInt("language_id");
            if (!row.wasNull()) {
                SortedMap<String, String> text = TextColumns.allForms(row.getString("text"), row.getString("forms"));
                boolean nothing = text.isEmpty() || !entry.alive || !entry.translatable;
                if (entry.measure.shape() == Shape.ASSET) {
                    AssetFactReader.file(text).ifPresent(files::add);
                    AssetFactReader.file(entry.measure.source()).ifPresent(files::add);
                }
                lines.add(new Line(entry, language, text, nothing ? null : grounds.of(entry.table, language)));
            }
        }

        private Entry entry(ResultSet row) throws SQLException {
            long id = row.getLong("id");
            if (row.getArray("said") != null) {
                allowed.note(id, (String[]) row.getArray("said").getArray());
            }
            return new Entry(
                    id,
                    row.getLong("table_id"),
                    row.getString("key"),
                    MeasureColumns.read(row),
                    row.getBoolean("alive"),
                    row.getBoolean("translatable"));
        }

        /** What is found in them, in the order in which they were read. */
        List<Found> look() {
            return lines.stream().map(this::look).toList();
        }

        private Found look(Line line) {
            Entry entry = line.entry;
            Masks masks = Masks.NONE;
            if (line.ground != null) {
                SortedMap<String, String> source = entry.measure.source();
                SortedMap<String, String> text = line.text == null ? source : line.text;
                List<Finding> findings = line.text == null
                        ? Checks.ofSource(entry.measure, entry.key, line.ground)
                        : entry.measure.shape() == Shape.ASSET
                                ? Inspector.asset(entry.measure, text, line.ground, facts)
                                : Checks.found(entry.measure, text, line.ground);
                masks = Masks.of(allowed.without(findings, entry.id, line.language, source, text));
            }
            return new Found(entry.id, line.language, entry.table, masks);
        }
    }
}
