package mellow.server.record;

import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.Collection;
import java.util.HashMap;
import java.util.Map;
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
import org.postgresql.PGStatement;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.RowCallbackHandler;
import org.springframework.stereotype.Component;

/** Streams the entries of a table with their cells, in table order, through a cursor. Needs a transaction around it. */
@Component
public class RecordReader {

    /** No limit of entries. */
    public static final int ALL = Integer.MAX_VALUE;

    private static final int FETCH = 1_000;
    /** What makes the driver ask for binary results from the first time on. */
    private static final int FORCE_BINARY = -1;

    /** One row per entry, its cells in columns of arrays: with a row per cell most of what comes is the entry, again and again. */
    private static final String RECORD = Coded.sql(
            """
            select e.id, e.position, e.key, e.context, e.shape, e.source, e.source_forms, e.note, e.reference, e.section, e.max_length, e.max_lines, e.max_width, e.translatable,
                   e.source_revision, e.meaning_revision, e.words, c.*
            from entry e
            cross join lateral (
                select array_agg(c.language_id::int) languages, array_agg(c.text) texts, array_agg(c.forms::text) forms, array_agg(c.standing::int) standings,
                       array_agg(c.open_offers::int) open_offers, array_agg(c.standing <> {standing.none} and c.based_on < e.meaning_revision) stale %s
                where c.entry_id = e.id and c.language_id = any(?)) c
            where e.table_id = ? and e.removed_at is null %s
            order by e.position, e.id
            """);

    /** What is read of cells beside their texts. */
    private enum With {
        /** Nothing. */
        TEXTS("from cell c"),
        /** The newest open offer of whomever. */
        NEWEST(
                """
                , array_agg(o.text) offers, array_agg(o.forms::text) offer_forms
                from cell c left join lateral (
                    select o.text, o.forms from offer o
                    where c.open_offers > 0 and o.entry_id = c.entry_id and o.language_id = c.language_id and o.answer = {answer.open}
                    order by o.id desc limit 1) o on true
                """),
        /** What belongs to a person. */
        PERSON(
                """
                , array_agg(c.version) versions, array_agg(coalesce(c.author_id = ?, false)) own, array_agg(o.text) offers, array_agg(o.forms::text) offer_forms
                from cell c left join offer o
                    on c.open_offers > 0 and o.entry_id = c.entry_id and o.language_id = c.language_id and o.answer = {answer.open} and o.author_id = ?
                """);

        private final String sql;

        With(String sql) {
            this.sql = Coded.sql(sql);
        }
    }

    private static final String FIRST =
            "and e.id in (select id from entry where table_id = ? and removed_at is null order by position, id limit ?)";

    private static final Standing[] STANDINGS = Standing.values();
    private static final Object[] NOTHING = {};

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
        read(With.PERSON, person, table, in, ALL, reader);
    }

    /**
     * The same of the first {@code most} entries for nobody in particular: cells have no versions and are nobody's own. The cost is that of those entries.
     *
     * @param newest whether the newest open offer of a cell comes along, whoever made it
     */
    public void texts(long table, Collection<LanguageTag> in, boolean newest, int most, Consumer<RecordEntry> reader) {
        read(newest ? With.NEWEST : With.TEXTS, 0, table, in, most, reader);
    }

    private void read(
            With with, long person, long table, Collection<LanguageTag> in, int most, Consumer<RecordEntry> reader) {
        Integer[] numbers = in.stream()
                .flatMap(tag -> languages.known(tag).stream())
                .distinct()
                .toArray(Integer[]::new);
        jdbc.query(
                connection -> {
                    PreparedStatement statement =
                            connection.prepareStatement(RECORD.formatted(with.sql, most == ALL ? "" : FIRST));
                    // Arrays come as bytes and not as one text to be taken apart.
                    statement.unwrap(PGStatement.class).setPrepareThreshold(FORCE_BINARY);
                    int at = 1;
                    if (with == With.PERSON) {
                        statement.setLong(at++, person);
                        statement.setLong(at++, person);
                    }
                    statement.setArray(at++, connection.createArrayOf("int4", numbers));
                    statement.setLong(at++, table);
                    if (most != ALL) {
                        statement.setLong(at++, table);
                        statement.setInt(at, most);
                    }
                    return statement;
                },
                (RowCallbackHandler) row -> reader.accept(entry(row, with)));
    }

    /** How many entries tables have. */
    public long count(Collection<Long> tables) {
        Long n = jdbc.query(
                "select coalesce(sum(entries), 0)::int8 from ledger_table where id = any(?)",
                statement -> statement.setArray(1, statement.getConnection().createArrayOf("int8", tables.toArray())),
                row -> row.next() ? row.getLong(1) : 0L);
        return n == null ? 0 : n;
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

    private RecordEntry entry(ResultSet row, With with) throws SQLException {
        return new RecordEntry(
                row.getLong("id"),
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
                cells(row, with));
    }

    private Map<LanguageTag, RecordCell> cells(ResultSet row, With with) throws SQLException {
        if (row.getArray("languages") == null) {
            return Map.of();
        }
        Object[] numbers = array(row, "languages");
        Object[] texts = array(row, "texts");
        Object[] forms = array(row, "forms");
        Object[] standings = array(row, "standings");
        Object[] waiting = array(row, "open_offers");
        Object[] stale = array(row, "stale");
        boolean ofPerson = with == With.PERSON;
        Object[] versions = ofPerson ? array(row, "versions") : NOTHING;
        Object[] own = ofPerson ? array(row, "own") : NOTHING;
        Object[] offers = with == With.TEXTS ? NOTHING : array(row, "offers");
        Object[] offerForms = with == With.TEXTS ? NOTHING : array(row, "offer_forms");
        Map<LanguageTag, RecordCell> cells = new HashMap<>(2 * numbers.length);
        for (int i = 0; i < numbers.length; i++) {
            FileText offer = offers.length == 0 ? FileText.NONE : text((String) offers[i], (String) offerForms[i]);
            cells.put(
                    languages.tag((Integer) numbers[i]),
                    new RecordCell(
                            text((String) texts[i], (String) forms[i]),
                            STANDINGS[(Integer) standings[i]],
                            ofPerson ? (Integer) versions[i] : 0,
                            ofPerson && (Boolean) own[i],
                            (Boolean) stale[i],
                            new RecordCell.Waiting((Integer) waiting[i], offer)));
        }
        return cells;
    }

    private static Object[] array(ResultSet row, String column) throws SQLException {
        return (Object[]) row.getArray(column).getArray();
    }
}
