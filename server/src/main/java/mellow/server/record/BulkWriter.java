package mellow.server.record;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import mellow.core.cell.CellState;
import mellow.core.format.EntryId;
import mellow.core.format.FileEntry;
import mellow.core.format.FileReading.Field;
import mellow.core.format.FileText;
import mellow.core.merge.RecordCell;
import mellow.core.merge.RecordEntry;
import mellow.core.text.WordCount;
import mellow.server.coverage.CoverageService;
import org.jspecify.annotations.Nullable;

/**
 * Writes what changes by the thousand: rows wait in files while the record streams by, then go in by COPY and a handful of statements, all in the
 * transaction of one connection. What was before is kept, so that {@link BulkUndo} can put it back. The table must be held alone, or single changes would
 * be overwritten.
 */
public final class BulkWriter implements AutoCloseable {

    /** New rows of larger files wait for the search indexes, which would make their transaction several times longer. */
    private static final int INDEXED_AT_ONCE = 1_000;

    private final Connection connection;
    private final Order order;
    private final boolean many;
    private final BulkRows rows = new BulkRows();
    private final BulkCells cells;

    private long[] newIds = new long[0];
    private int nextNew;
    private long lastTouched = -1;
    private final List<Long> few = new ArrayList<>();

    /** Who takes what into which table, when. */
    public record Order(long table, long intake, long person, Instant at) {}

    /**
     * A writer with nothing to write yet.
     *
     * @param connection in whose transaction it is written
     * @param most how many entries may be concerned
     */
    public BulkWriter(Connection connection, Order order, int most) {
        this.connection = connection;
        this.order = order;
        this.many = most > INDEXED_AT_ONCE;
        this.cells = new BulkCells(rows, order, many);
    }

    /** Takes numbers for entries that may turn out new. */
    public void reserve(int count) throws SQLException {
        newIds = new long[count];
        try (PreparedStatement statement =
                connection.prepareStatement("select nextval('entry_seq') from generate_series(1, ?)")) {
            statement.setInt(1, count);
            try (ResultSet row = statement.executeQuery()) {
                for (int i = 0; row.next(); i++) {
                    newIds[i] = row.getLong(1);
                }
            }
        }
    }

    /** A new entry with one of the reserved numbers, which it returns. */
    public long add(FileEntry entry, FileText source, double position) {
        long id = newIds[nextNew++];
        rows.entries.add(
                id,
                order.table(),
                position,
                entry.key(),
                entry.context(),
                entry.shape().word(),
                source.main(),
                BulkRows.forms(source),
                BulkRows.folded(source),
                entry.note(),
                BulkRows.folded(entry.note()),
                entry.reference(),
                entry.section(),
                entry.maxLength(),
                entry.translatable(),
                WordCount.of(source.main()),
                order.at(),
                many);
        tell(id, "added", null, source.main(), 1);
        touch(id, true);
        return id;
    }

    /** An entry that was removed is back under that name. */
    public void putBack(long id, EntryId name, FileText source) {
        rows.places.add(id, name.key(), name.context(), false);
        touch(id, false);
        tell(id, "put_back", null, source.main(), 1);
    }

    /** An entry goes by another name. */
    public void rename(RecordEntry entry, EntryId name) {
        touch(entry);
        rows.places.add(entry.id(), name.key(), name.context(), false);
        tell(entry, "renamed", entry.entryId().key(), name.key());
    }

    /** An entry goes out of sight. */
    public void remove(RecordEntry entry) {
        touch(entry);
        rows.places.add(entry.id(), entry.entryId().key(), entry.entryId().context(), true);
        tell(entry, "removed", entry.source().main(), null);
    }

    /** An entry's source is rewritten; {@code meaningChanged} makes texts for earlier sources stale. */
    public void rewrite(RecordEntry entry, FileText source, boolean meaningChanged) {
        touch(entry);
        rows.sources.add(
                entry.id(),
                source.main(),
                BulkRows.forms(source),
                BulkRows.folded(source),
                WordCount.of(source.main()),
                meaningChanged);
        tell(entry.id(), "source_rewritten", entry.source().main(), source.main(), entry.revision() + 1);
    }

    /** Something else is said about an entry; fields that are not in {@code said} stay. */
    public void describe(RecordEntry entry, Map<Field, String> said, FileText before, FileText after) {
        touch(entry);
        String limit = said.get(Field.LIMIT);
        rows.descriptions.add(
                entry.id(),
                said.get(Field.NOTE),
                BulkRows.folded(said.getOrDefault(Field.NOTE, "")),
                said.get(Field.REFERENCE),
                said.get(Field.SECTION),
                limit == null ? null : limit.isEmpty() ? 0 : Integer.parseInt(limit));
        tell(entry, "described", before.main(), after.main());
    }

    /** A text comes to a new entry. */
    public void text(long entry, int language, BulkCells.Arriving text) {
        cells.insert(entry, language, text);
    }

    /** A text comes to a cell of the record, or an offer beside what is there. */
    public void text(RecordEntry entry, int language, RecordCell mine, BulkCells.Arriving text) {
        touch(entry);
        cells.take(entry.id(), language, mine, text);
    }

    /** A cell's text goes. */
    public void clear(RecordEntry entry, int language, RecordCell mine, CellState state) {
        touch(entry);
        cells.clear(entry.id(), language, mine, state);
    }

    private void tell(RecordEntry entry, String what, @Nullable String before, @Nullable String after) {
        tell(entry.id(), what, before, after, entry.revision());
    }

    private void tell(long entry, String what, @Nullable String before, @Nullable String after, int revision) {
        rows.entryStory.add(entry, order.at(), order.person(), what, before, after, revision, order.intake());
    }

    private void touch(RecordEntry entry) {
        if (entry.id() != lastTouched) {
            lastTouched = entry.id();
            touch(entry.id(), false);
        }
    }

    private void touch(long id, boolean isNew) {
        rows.touched.add(order.intake(), id, isNew);
        if (few.size() <= CoverageService.FEW) {
            few.add(id);
        }
    }

    /** The entries that were added or changed, as far as they are few enough to be counted one by one. */
    public List<Long> touched() {
        return List.copyOf(few);
    }

    /** How many entries were added or changed. */
    public int touchedEntries() {
        return (int) rows.touched.rows();
    }

    /** The record has been read, so the connection is free: the largest table is written while the rest is being decided. */
    public void recordIsRead() throws SQLException {
        rows.cells.goLive(connection);
    }

    /** Puts everything into the database, in the transaction. */
    public void send() throws SQLException {
        rows.cells.send(connection);
        try (Statement statement = connection.createStatement()) {
            statement.execute(BulkSql.STAGE);
        }
        rows.sendStaged(connection);
        boolean entriesChange = rows.changedEntries() > 0;
        if (entriesChange) {
            update(BulkSql.KEEP_ENTRIES, order.intake());
        }
        if (rows.texts.rows() + rows.offered.rows() > 0) {
            update(BulkSql.KEEP_CELLS, order.intake());
        }
        rows.cellsWere.send(connection);
        if (rows.places.rows() > 0) {
            // Before new entries come: one of them may take the key of an entry that goes.
            update(BulkSql.PLACE, order.at(), order.at());
        }
        rows.entries.send(connection);
        if (many && believedFew()) {
            try (Statement statement = connection.createStatement()) {
                statement.execute("analyze entry, cell");
            }
        }
        rows.entryStory.send(connection);
        rows.touched.send(connection);
        if (rows.sources.rows() > 0) {
            update(BulkSql.REWRITE, order.at());
            update(BulkSql.GO_STALE);
        }
        if (rows.descriptions.rows() > 0) {
            update(BulkSql.DESCRIBE, order.at());
        }
        if (rows.texts.rows() > 0) {
            update(BulkSql.PUT, order.person(), order.at());
        }
        if (rows.offered.rows() > 0) {
            update(BulkSql.SET_ASIDE, order.person(), order.at(), order.person());
            update(BulkSql.OPEN, order.person(), order.at());
        }
        rows.offers.send(connection);
        rows.story.send(connection);
        if (entriesChange) {
            update(BulkSql.NOTE_VERSIONS, order.intake());
        }
    }

    /** What went stale, once it is sent: texts that were current and are for an older meaning now, by language. */
    public Map<String, Integer> stale() throws SQLException {
        Map<String, Integer> stale = new TreeMap<>();
        if (rows.sources.rows() == 0) {
            return stale;
        }
        try (PreparedStatement statement = connection.prepareStatement(BulkSql.WENT_STALE)) {
            statement.setLong(1, order.intake());
            try (ResultSet row = statement.executeQuery()) {
                while (row.next()) {
                    stale.put(row.getString("tag"), row.getInt("texts"));
                }
            }
        }
        return stale;
    }

    private boolean believedFew() throws SQLException {
        try (PreparedStatement statement = connection.prepareStatement(BulkSql.BELIEVED_FEW)) {
            statement.setLong(1, rows.entries.rows());
            statement.setLong(2, rows.cells.rows());
            try (ResultSet row = statement.executeQuery()) {
                return row.next() && row.getBoolean(1);
            }
        }
    }

    private void update(String sql, Object... values) throws SQLException {
        try (PreparedStatement statement = connection.prepareStatement(sql)) {
            for (int i = 0; i < values.length; i++) {
                statement.setObject(
                        i + 1, values[i] instanceof Instant instant ? instant.atOffset(ZoneOffset.UTC) : values[i]);
            }
            statement.executeUpdate();
        }
    }

    @Override
    public void close() {
        rows.close();
    }
}
