package mellow.server.intake;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import mellow.core.cell.CellState;
import mellow.core.cell.Standing;
import mellow.core.format.FileEntry;
import mellow.core.language.LanguageTag;
import mellow.core.merge.SourceDecision;
import mellow.core.merge.TextEffect;
import mellow.core.merge.TextEffect.Arrival;
import mellow.core.text.WordCount;
import mellow.server.common.CopyFile;
import mellow.server.common.TextColumns;
import mellow.server.intake.Comparison.Arriving;
import mellow.server.record.RecordCell;
import mellow.server.record.RecordEntry;
import org.jspecify.annotations.Nullable;

/**
 * Carries out what a comparison finds: rows wait in files while the record streams by, then go in by COPY and a handful of statements, all in the
 * transaction of one connection. The table must be held alone, or single changes would be overwritten.
 */
final class Applier implements Comparison.Listener, AutoCloseable {

    private static final String STAGE =
            """
            create temporary table staged_source (entry_id bigint, source text, source_folded text, words int) on commit drop;
            create temporary table staged_description (entry_id bigint, note text, note_folded text, reference text, section text, max_length int) on commit drop;
            create temporary table staged_text (entry_id bigint, language_id smallint, text text, folded text, standing smallint, state smallint, based_on int) on commit drop;
            create temporary table staged_offer (entry_id bigint, language_id smallint, based_on int) on commit drop
            """;
    private static final String REWRITE =
            """
            update entry e set source = s.source, source_folded = s.source_folded, words = s.words, source_revision = e.source_revision + 1,
                meaning_revision = case when ? then e.source_revision + 1 else e.meaning_revision end, version = e.version + 1, changed_at = ?
            from staged_source s where e.id = s.entry_id
            """;
    private static final String GO_STALE =
            """
            update cell c set state = 2
            from staged_source s join entry e on e.id = s.entry_id
            where c.entry_id = s.entry_id and c.state in (3, 4) and c.based_on < e.meaning_revision
            """;
    private static final String DESCRIBE =
            """
            update entry e set note = s.note, note_folded = s.note_folded, reference = s.reference, section = s.section, max_length = s.max_length, version = e.version + 1, changed_at = ?
            from staged_description s where e.id = s.entry_id
            """;
    private static final String PUT =
            """
            update cell c set text = s.text, forms = null, folded = s.folded, standing = s.standing, state = s.state, based_on = s.based_on, text_at = c.version + 1, version = c.version + 1,
                origin = 'file', author_id = ?, changed_at = ?
            from staged_text s where c.entry_id = s.entry_id and c.language_id = s.language_id
            """;
    private static final String SET_ASIDE =
            """
            update offer o set answer = 4, answered_at = c.version + 1, answered_by = ?, answered_time = ?
            from staged_offer s join cell c on c.entry_id = s.entry_id and c.language_id = s.language_id
            where o.entry_id = s.entry_id and o.language_id = s.language_id and o.author_id = ? and o.answer = 0
            """;
    private static final String OPEN =
            """
            update cell c set state = 0, version = c.version + 1, origin = 'file', author_id = ?, changed_at = ?,
                open_offers = 1 + (select count(*) from offer o where o.entry_id = c.entry_id and o.language_id = c.language_id and o.answer = 0)
            from staged_offer s where c.entry_id = s.entry_id and c.language_id = s.language_id
            """;

    /** New rows of larger files wait for the search indexes, which would make their transaction several times longer. */
    private static final int INDEXED_AT_ONCE = 1_000;

    private final Connection connection;
    private final long table;
    private final long intake;
    private final long person;
    private final Instant at;
    private final boolean meaningMoves;
    private final boolean coordinator;
    private final Map<LanguageTag, Arrival> arrivals;
    private final Map<LanguageTag, Short> numbers;
    private final Positions positions;
    private final boolean many;

    private final CopyFile entries = new CopyFile(
            "entry (id, table_id, position, key, context, source, source_folded, note, note_folded, reference, section, max_length, words, changed_at, unindexed)");
    private final CopyFile cells = new CopyFile(
            "cell (entry_id, language_id, text, folded, standing, state, based_on, text_at, version, origin, author_id, changed_at, open_offers, unindexed)");
    private final CopyFile offers =
            new CopyFile("offer (entry_id, language_id, author_id, text, based_on, opened_at, offered_time)");
    private final CopyFile story = new CopyFile(
            "cell_story (entry_id, language_id, at, person_id, what, origin, before, after, standing, based_on, intake_id)");
    private final CopyFile entryStory =
            new CopyFile("entry_story (entry_id, at, person_id, what, before, after, revision, intake_id)");
    private final CopyFile touched = new CopyFile("intake_entry (intake_id, entry_id)");
    private final CopyFile sources = new CopyFile("staged_source (entry_id, source, source_folded, words)");
    private final CopyFile descriptions =
            new CopyFile("staged_description (entry_id, note, note_folded, reference, section, max_length)");
    private final CopyFile texts =
            new CopyFile("staged_text (entry_id, language_id, text, folded, standing, state, based_on)");
    private final CopyFile offered = new CopyFile("staged_offer (entry_id, language_id, based_on)");
    private final Describing describing;

    private long[] newIds = new long[0];
    private int nextNew;
    private long lastTouched = -1;
    private long lastRewritten = -1;

    /** Which descriptions the file has; the others stay as they are. */
    record Describing(boolean note, boolean reference, boolean section, boolean limit) {}

    /** Who takes what into which table, when. */
    record Order(
            long table,
            long intake,
            long person,
            Instant at,
            boolean meaningMoves,
            boolean coordinator,
            Describing describing) {}

    Applier(
            Connection connection,
            Order order,
            Map<LanguageTag, Arrival> arrivals,
            Map<LanguageTag, Short> numbers,
            int fileEntries) {
        this.connection = connection;
        this.table = order.table();
        this.intake = order.intake();
        this.person = order.person();
        this.at = order.at();
        this.meaningMoves = order.meaningMoves();
        this.coordinator = order.coordinator();
        this.describing = order.describing();
        this.arrivals = arrivals;
        this.numbers = numbers;
        this.positions = new Positions(fileEntries);
        this.many = fileEntries > INDEXED_AT_ONCE;
    }

    /** Takes numbers for entries that may turn out new. */
    void reserve(int count) throws SQLException {
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

    @Override
    public void added(int index, FileEntry entry, String source, List<Arriving> arriving) {
        if (!coordinator) {
            return;
        }
        long id = newIds[nextNew++];
        entries.add(
                id,
                table,
                positions.place(index),
                entry.key(),
                entry.context(),
                source,
                TextColumns.foldedOrNull(source),
                entry.note(),
                TextColumns.foldedOrNull(entry.note()),
                entry.reference(),
                entry.section(),
                entry.maxLength(),
                WordCount.of(source),
                at,
                many);
        entryStory.add(id, at, person, "added", null, source, 1, intake);
        touched.add(intake, id);
        for (Arriving text : arriving) {
            insert(id, text, 1, CellState.of(text.effect() == TextEffect.OFFER, false, standing(text), 1, 1));
        }
    }

    @Override
    public void met(int index, RecordEntry entry) {
        positions.taken(entry.position());
        positions.met(index, entry.position());
    }

    @Override
    public void rewritten(RecordEntry entry, String source, boolean conflict) {
        if (!coordinator) {
            return;
        }
        touch(entry);
        lastRewritten = entry.id();
        sources.add(entry.id(), source, TextColumns.foldedOrNull(source), WordCount.of(source));
        entryStory.add(
                entry.id(), at, person, "source_rewritten", entry.source(), source, entry.revision() + 1, intake);
    }

    @Override
    public void sourceKept(RecordEntry entry, String source, SourceDecision decision) {
        // Nothing to do: the record's source stays, and the report lists the difference.
    }

    @Override
    public void described(RecordEntry entry, FileEntry now) {
        if (!coordinator) {
            return;
        }
        touch(entry);
        String note = describing.note() ? now.note() : entry.note();
        descriptions.add(
                entry.id(),
                note,
                TextColumns.foldedOrNull(note),
                describing.reference() ? now.reference() : entry.reference(),
                describing.section() ? now.section() : entry.section(),
                describing.limit() ? now.maxLength() : entry.maxLength());
        entryStory.add(entry.id(), at, person, "described", entry.note(), now.note(), entry.revision(), intake);
    }

    @Override
    public void text(RecordEntry entry, Arriving text, RecordCell mine) {
        touch(entry);
        boolean rewritten = entry.id() == lastRewritten;
        int revision = entry.revision() + (rewritten ? 1 : 0);
        int basedOn = text.forNewSource() ? revision : Math.max(1, revision - 1);
        int meaning = rewritten && meaningMoves ? revision : entry.meaningRevision();
        boolean offer = text.effect() == TextEffect.OFFER;
        CellState state = CellState.of(offer || mine.openOffers() > 0, false, standing(text), basedOn, meaning);
        if (mine.version() == 0) {
            insert(entry.id(), text, basedOn, state);
            return;
        }
        short language = number(text.tag());
        if (offer) {
            offered.add(entry.id(), language, basedOn);
            offers.add(entry.id(), language, person, text.text(), basedOn, mine.version() + 1, at);
            tell(entry.id(), language, "offered", mine.text(), text.text(), mine.standing(), basedOn);
        } else {
            texts.add(
                    entry.id(),
                    language,
                    text.text(),
                    TextColumns.foldedOrNull(text.text()),
                    standing(text).ordinal(),
                    state.ordinal(),
                    basedOn);
            tell(entry.id(), language, word(standing(text)), mine.text(), text.text(), standing(text), basedOn);
        }
    }

    @Override
    public void shaped(RecordEntry entry, String theirs) {
        // Nothing to do: the entry stays, and the report lists it.
    }

    @Override
    public void emptied(RecordEntry entry, LanguageTag language, RecordCell mine) {
        // Nothing to do: an empty cell in a file removes no text, and the report lists it.
    }

    @Override
    public void gone(RecordEntry entry, boolean known) {
        positions.taken(entry.position());
    }

    @Override
    public void sourceless(FileEntry entry) {
        // Nothing to do: an entry without source cannot be made, and the report lists it.
    }

    private void insert(long entry, Arriving text, int basedOn, CellState state) {
        short language = number(text.tag());
        boolean offer = text.effect() == TextEffect.OFFER;
        Standing standing = offer ? Standing.NONE : standing(text);
        cells.add(
                entry,
                language,
                offer ? null : text.text(),
                offer ? null : TextColumns.foldedOrNull(text.text()),
                standing.ordinal(),
                state.ordinal(),
                offer ? 0 : basedOn,
                offer ? 0 : 1,
                1,
                "file",
                person,
                at,
                offer ? 1 : 0,
                many);
        if (offer) {
            offers.add(entry, language, person, text.text(), basedOn, 1, at);
        }
        tell(entry, language, offer ? "offered" : word(standing), "", text.text(), standing, basedOn);
    }

    private void tell(
            long entry, short language, String what, String before, String after, Standing standing, int basedOn) {
        story.add(
                entry,
                language,
                at,
                person,
                what,
                "file",
                emptyToNull(before),
                after,
                standing.ordinal(),
                basedOn,
                intake);
    }

    private Standing standing(Arriving text) {
        return arrivals.get(text.tag()) == Arrival.PENCILLED ? Standing.PENCILLED : Standing.SETTLED;
    }

    private static String word(Standing standing) {
        return standing == Standing.PENCILLED ? "pencilled" : "settled";
    }

    private static @Nullable String emptyToNull(String text) {
        return text.isEmpty() ? null : text;
    }

    private short number(LanguageTag tag) {
        return java.util.Objects.requireNonNull(numbers.get(tag), "language without a number");
    }

    private void touch(RecordEntry entry) {
        if (entry.id() != lastTouched) {
            lastTouched = entry.id();
            touched.add(intake, entry.id());
        }
    }

    /** How many entries the file added or changed. */
    int touchedEntries() {
        return (int) touched.rows();
    }

    /** The record has been read, so the connection is free: the largest table is written while the rest is being decided. */
    void recordIsRead() throws SQLException {
        cells.goLive(connection);
    }

    /** Puts everything into the database, in the transaction. */
    void send() throws SQLException {
        cells.send(connection);
        try (java.sql.Statement statement = connection.createStatement()) {
            statement.execute(STAGE);
        }
        entries.send(connection);
        entryStory.send(connection);
        touched.send(connection);
        if (sources.rows() > 0) {
            sources.send(connection);
            update(REWRITE, meaningMoves, at);
            update(GO_STALE);
        }
        if (descriptions.rows() > 0) {
            descriptions.send(connection);
            update(DESCRIBE, at);
        }
        if (texts.rows() > 0) {
            texts.send(connection);
            update(PUT, person, at);
        }
        if (offered.rows() > 0) {
            offered.send(connection);
            update(SET_ASIDE, person, at, person);
            update(OPEN, person, at);
        }
        offers.send(connection);
        story.send(connection);
    }

    private void update(String sql, Object... values) throws SQLException {
        try (PreparedStatement statement = connection.prepareStatement(sql)) {
            for (int i = 0; i < values.length; i++) {
                Object value =
                        values[i] instanceof Instant instant ? instant.atOffset(java.time.ZoneOffset.UTC) : values[i];
                statement.setObject(i + 1, value);
            }
            statement.executeUpdate();
        }
    }

    @Override
    public void close() {
        for (CopyFile file :
                List.of(entries, cells, offers, story, entryStory, touched, sources, descriptions, texts, offered)) {
            file.close();
        }
    }
}
