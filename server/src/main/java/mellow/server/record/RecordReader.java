package mellow.server.record;

import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.Collection;
import java.util.HashMap;
import java.util.function.Consumer;
import javax.sql.DataSource;
import mellow.core.cell.Standing;
import mellow.core.format.EntryId;
import mellow.core.format.FileText;
import mellow.core.language.LanguageTag;
import mellow.core.merge.RecordCell;
import mellow.core.merge.RecordEntry;
import mellow.core.merge.Revisions;
import mellow.core.text.Shape;
import mellow.server.common.Coded;
import mellow.server.common.TextColumns;
import mellow.server.language.LanguageService;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.RowCallbackHandler;
import org.springframework.stereotype.Component;

/** Streams the entries of a table with their cells, in table order, through a cursor. Needs a transaction around it. */
@Component
public class RecordReader {

    private static final int FETCH = 5_000;
    /** One row per cell, and one for an entry without any. */
    private static final String RECORD = Coded.sql(
            """
            select e.id, e.position, e.key, e.context, e.shape, e.source, e.source_forms, e.note, e.reference, e.section, e.max_length, e.max_lines, e.max_width, e.translatable,
                   e.source_revision, e.meaning_revision, e.words, c.language_id, c.text, c.forms, c.standing, c.version, c.open_offers, c.author_id = ? own,
                   c.standing <> {standing.none} and c.based_on < e.meaning_revision stale, o.text own_offer, o.forms own_offer_forms
            from entry e
            left join cell c on c.entry_id = e.id and c.language_id = any(?)
            left join offer o on c.open_offers > 0 and o.entry_id = c.entry_id and o.language_id = c.language_id and o.answer = {answer.open} and o.author_id = ?
            where e.table_id = ? and e.removed_at is null %s
            order by e.position, e.id
            """);

    private static final String FIRST =
            "and e.id in (select id from entry where table_id = ? and removed_at is null order by position, id limit ?)";

    private final JdbcTemplate jdbc;
    private final LanguageService languages;

    RecordReader(DataSource database, LanguageService languages) {
        this.jdbc = new JdbcTemplate(database);
        this.jdbc.setFetchSize(FETCH);
        this.languages = languages;
    }

    /**
     * Hands every entry of {@code table} to {@code reader} with its cells in some languages; {@code person}'s own open offers come along. The cost is that of
     * the entries and of those cells.
     */
    public void read(long table, long person, Collection<LanguageTag> in, Consumer<RecordEntry> reader) {
        read(table, person, in, Integer.MAX_VALUE, reader);
    }

    /** The same for the first {@code most} entries; the cost is that of those. */
    public void read(long table, long person, Collection<LanguageTag> in, int most, Consumer<RecordEntry> reader) {
        boolean all = most == Integer.MAX_VALUE;
        Grouping grouping = new Grouping(reader);
        Integer[] numbers = in.stream()
                .flatMap(tag -> languages.known(tag).stream())
                .distinct()
                .toArray(Integer[]::new);
        jdbc.query(
                connection -> {
                    PreparedStatement statement = connection.prepareStatement(RECORD.formatted(all ? "" : FIRST));
                    statement.setLong(1, person);
                    statement.setArray(2, connection.createArrayOf("int4", numbers));
                    statement.setLong(3, person);
                    statement.setLong(4, table);
                    if (!all) {
                        statement.setLong(5, table);
                        statement.setInt(6, most);
                    }
                    return statement;
                },
                grouping);
        grouping.finish();
    }

    /** Whether any entry of these tables has a context. */
    public boolean anyContext(Collection<Long> tables) {
        return Boolean.TRUE.equals(jdbc.query(
                "select exists (select 1 from entry where table_id = any(?) and removed_at is null and context <> '')",
                statement -> statement.setArray(1, statement.getConnection().createArrayOf("int8", tables.toArray())),
                row -> row.next() && row.getBoolean(1)));
    }

    private static FileText text(@Nullable String text, @Nullable String forms) {
        return text == null
                ? FileText.NONE
                : forms == null ? FileText.plain(text) : FileText.of(TextColumns.forms(forms));
    }

    private final class Grouping implements RowCallbackHandler {
        private final Consumer<RecordEntry> reader;
        private @Nullable RecordEntry current;

        Grouping(Consumer<RecordEntry> reader) {
            this.reader = reader;
        }

        @Override
        public void processRow(ResultSet row) throws SQLException {
            long id = row.getLong("id");
            RecordEntry entry = current;
            if (entry == null || entry.id() != id) {
                finish();
                entry = new RecordEntry(
                        id,
                        row.getDouble("position"),
                        new EntryId(row.getString("key"), row.getString("context")),
                        new RecordEntry.Source(
                                Shape.of(row.getString("shape")).orElseThrow(),
                                text(row.getString("source"), row.getString("source_forms")),
                                new Revisions(row.getInt("source_revision"), row.getInt("meaning_revision")),
                                row.getInt("words")),
                        new RecordEntry.About(
                                row.getString("note"),
                                row.getString("reference"),
                                row.getString("section"),
                                row.getInt("max_length"),
                                row.getInt("max_lines"),
                                row.getInt("max_width"),
                                row.getBoolean("translatable")),
                        new HashMap<>());
                current = entry;
            }
            int language = row.getInt("language_id");
            if (!row.wasNull()) {
                entry.cells()
                        .put(
                                languages.tag(language),
                                new RecordCell(
                                        text(row.getString("text"), row.getString("forms")),
                                        Standing.values()[row.getInt("standing")],
                                        row.getInt("version"),
                                        row.getBoolean("own"),
                                        row.getBoolean("stale"),
                                        new RecordCell.Waiting(
                                                row.getInt("open_offers"),
                                                text(row.getString("own_offer"), row.getString("own_offer_forms")))));
            }
        }

        void finish() {
            if (current != null) {
                reader.accept(current);
                current = null;
            }
        }
    }
}
