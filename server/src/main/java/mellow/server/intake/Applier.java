package mellow.server.intake;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;
import mellow.core.cell.CellState;
import mellow.core.cell.Standing;
import mellow.core.format.EntryId;
import mellow.core.format.FileEntry;
import mellow.core.format.FileReading.Field;
import mellow.core.format.FileText;
import mellow.core.language.LanguageTag;
import mellow.core.merge.Arrival;
import mellow.core.merge.Change;
import mellow.core.merge.ChangeKind;
import mellow.core.merge.Choice;
import mellow.core.merge.Comparison;
import mellow.core.merge.RecordCell;
import mellow.core.merge.RecordEntry;
import mellow.core.text.WordCount;
import mellow.server.common.CopyFile;
import mellow.server.common.TextColumns;
import org.jspecify.annotations.Nullable;

/**
 * Carries out what a comparison finds: rows wait in files while the record streams by, then go in by COPY and a handful of statements, all in the
 * transaction of one connection. The table must be held alone, or single changes would be overwritten.
 */
final class Applier implements Comparison.Listener, AutoCloseable {

    private static final String STAGE =
            """
            create temporary table staged_source (entry_id bigint, source text, source_forms text, source_folded text, words int, meaning boolean) on commit drop;
            create temporary table staged_description (entry_id bigint, note text, note_folded text, reference text, section text, max_length int) on commit drop;
            create temporary table staged_place (entry_id bigint, key text, context text, removed boolean) on commit drop;
            create temporary table staged_text (entry_id bigint, language_id int, text text, forms text, folded text, standing smallint, state smallint, based_on int) on commit drop;
            create temporary table staged_offer (entry_id bigint, language_id int, based_on int) on commit drop
            """;
    private static final String KEEP_CELLS =
            """
            insert into intake_cell_was (intake_id, entry_id, language_id, text, forms, folded, standing, based_on, text_at, version)
            select ?, c.entry_id, c.language_id, c.text, c.forms, c.folded, c.standing, c.based_on, c.text_at, c.version
            from (select entry_id, language_id from staged_text union all select entry_id, language_id from staged_offer) s
            join cell c on c.entry_id = s.entry_id and c.language_id = s.language_id
            """;
    private static final String KEEP_ENTRIES =
            """
            insert into intake_entry_was (intake_id, entry_id, key, context, source, source_forms, source_folded, note, note_folded, reference, section, max_length,
                words, source_revision, meaning_revision, removed_at, version_after)
            select ?, e.id, e.key, e.context, e.source, e.source_forms, e.source_folded, e.note, e.note_folded, e.reference, e.section, e.max_length,
                e.words, e.source_revision, e.meaning_revision, e.removed_at, 0
            from (select entry_id from staged_source union select entry_id from staged_description union select entry_id from staged_place) s
            join entry e on e.id = s.entry_id
            """;
    private static final String NOTE_VERSIONS =
            "update intake_entry_was w set version_after = e.version from entry e where w.intake_id = ? and e.id = w.entry_id";
    private static final String REWRITE =
            """
            update entry e set source = s.source, source_forms = s.source_forms, source_folded = s.source_folded, words = s.words, source_revision = e.source_revision + 1,
                meaning_revision = case when s.meaning then e.source_revision + 1 else e.meaning_revision end, version = e.version + 1, changed_at = ?
            from staged_source s where e.id = s.entry_id
            """;
    private static final String GO_STALE =
            """
            update cell c set state = 2
            from staged_source s join entry e on e.id = s.entry_id
            where c.entry_id = s.entry_id and c.state in (3, 4) and c.based_on < e.meaning_revision
            """;
    private static final String WENT_STALE =
            """
            select l.tag, count(*) from staged_source s
            join intake_entry_was w on w.intake_id = ? and w.entry_id = s.entry_id
            join entry e on e.id = s.entry_id
            join cell c on c.entry_id = s.entry_id and c.standing <> 0 and c.based_on >= w.meaning_revision and c.based_on < e.meaning_revision
            join language l on l.id = c.language_id group by 1
            """;
    private static final String DESCRIBE =
            """
            update entry e set note = coalesce(s.note, e.note), note_folded = case when s.note is null then e.note_folded else s.note_folded end,
                reference = coalesce(s.reference, e.reference), section = coalesce(s.section, e.section), max_length = coalesce(s.max_length, e.max_length),
                version = e.version + 1, changed_at = ?
            from (select entry_id, max(note) note, max(note_folded) note_folded, max(reference) reference, max(section) section, max(max_length) max_length
                from staged_description group by entry_id) s
            where e.id = s.entry_id
            """;
    private static final String PLACE =
            """
            update entry e set key = s.key, context = s.context, removed_at = case when s.removed then ?::timestamptz end, version = e.version + 1, changed_at = ?
            from staged_place s where e.id = s.entry_id
            """;
    private static final String PUT =
            """
            update cell c set text = s.text, forms = s.forms, folded = s.folded, standing = s.standing, state = s.state, based_on = s.based_on, text_at = c.version + 1, version = c.version + 1,
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

    /** Up to so many entries are counted anew by themselves; more, and the whole table is. */
    static final int FEW = 20_000;

    private final Connection connection;
    private final Order order;
    private final Map<LanguageTag, Integer> numbers;
    private final Positions positions;
    private final boolean many;

    private final CopyFile entries = new CopyFile(
            "entry",
            "id int8, table_id int8, position float8, key text, context text, shape text, source text, source_forms text, "
                    + "source_folded text, note text, note_folded text, reference text, section text, max_length int4, "
                    + "translatable bool, words int4, changed_at timestamptz, unindexed bool");
    private final CopyFile cells = new CopyFile(
            "cell",
            "entry_id int8, language_id int4, text text, forms text, folded text, standing int2, state int2, based_on int4, "
                    + "text_at int4, version int4, origin text, author_id int8, changed_at timestamptz, open_offers int2, "
                    + "unindexed bool");
    private final CopyFile cellsWere = new CopyFile(
            "intake_cell_was",
            "intake_id int8, entry_id int8, language_id int4, standing int2, based_on int4, text_at int4, version int4");
    private final CopyFile offers = new CopyFile(
            "offer",
            "entry_id int8, language_id int4, author_id int8, text text, forms text, based_on int4, opened_at int4, "
                    + "offered_time timestamptz, intake_id int8");
    private final CopyFile story = new CopyFile(
            "cell_story",
            "entry_id int8, language_id int4, at timestamptz, person_id int8, what text, origin text, before text, "
                    + "before_forms text, after text, after_forms text, standing int2, based_on int4, intake_id int8");
    private final CopyFile entryStory = new CopyFile(
            "entry_story",
            "entry_id int8, at timestamptz, person_id int8, what text, before text, after text, revision int4, "
                    + "intake_id int8");
    private final CopyFile touched = new CopyFile("intake_entry", "intake_id int8, entry_id int8, added bool");
    private final CopyFile sources = new CopyFile(
            "staged_source",
            "entry_id int8, source text, source_forms text, source_folded text, words int4, meaning bool");
    private final CopyFile descriptions = new CopyFile(
            "staged_description",
            "entry_id int8, note text, note_folded text, reference text, section text, max_length int4");
    private final CopyFile places = new CopyFile("staged_place", "entry_id int8, key text, context text, removed bool");
    private final CopyFile texts = new CopyFile(
            "staged_text",
            "entry_id int8, language_id int4, text text, forms text, folded text, standing int2, state int2, based_on int4");
    private final CopyFile offered = new CopyFile("staged_offer", "entry_id int8, language_id int4, based_on int4");

    private long[] newIds = new long[0];
    private int nextNew;
    private long lastTouched = -1;
    private long added;
    private final List<Long> few = new ArrayList<>();
    private @Nullable Change rewriting;

    /** Who takes what into which table, when. */
    record Order(long table, long intake, long person, Instant at, Map<EntryId, Long> removedBefore) {}

    Applier(Connection connection, Order order, Map<LanguageTag, Integer> numbers, int fileEntries) {
        this.connection = connection;
        this.order = order;
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
    public void met(int index, RecordEntry entry) {
        positions.taken(entry.position());
        positions.met(index, entry.position());
    }

    @Override
    public void alone(RecordEntry entry) {
        positions.taken(entry.position());
    }

    @Override
    public void change(Change change) {
        RecordEntry entry = change.entry();
        FileEntry file = change.file();
        if (change.language() != null) {
            text(change);
        } else if (entry == null) {
            onlyInFile(change, java.util.Objects.requireNonNull(file));
        } else {
            ofEntry(change, entry);
        }
    }

    private void onlyInFile(Change change, FileEntry file) {
        boolean isNew = change.kind() == ChangeKind.NEW_ENTRIES || change.kind() == ChangeKind.WITHOUT_SOURCE;
        if (isNew && change.choice() == Choice.TAKE) {
            add(change, file);
        } else if (change.choice() == Choice.PUT_BACK) {
            long id = java.util.Objects.requireNonNull(order.removedBefore().get(change.id()));
            places.add(id, change.id().key(), change.id().context(), false);
            touch(id, false);
            entryStory.add(
                    id,
                    order.at(),
                    order.person(),
                    "put_back",
                    null,
                    change.after().main(),
                    1,
                    order.intake());
        }
    }

    private void ofEntry(Change change, RecordEntry entry) {
        switch (change.choice()) {
            case CHANGED, FIX -> {
                if (change.kind() == ChangeKind.REWORDED) {
                    rename(change, entry);
                }
                rewrite(change, entry);
            }
            case TAKE -> describe(change, entry);
            case RENAME -> rename(change, entry);
            case BOTH -> add(change, java.util.Objects.requireNonNull(change.file()));
            case REPLACE -> {
                remove(entry);
                add(change, java.util.Objects.requireNonNull(change.file()));
            }
            case REMOVE -> remove(entry);
            default -> {
                // Kept: nothing to do, and the report lists the difference.
            }
        }
    }

    private void rename(Change change, RecordEntry entry) {
        touch(entry);
        places.add(entry.id(), change.id().key(), change.id().context(), false);
        tell(entry, "renamed", entry.entryId().key(), change.id().key());
    }

    private void add(Change change, FileEntry entry) {
        long id = newIds[nextNew++];
        String source = change.after().main();
        entries.add(
                id,
                order.table(),
                positions.place(change.index()),
                entry.key(),
                entry.context(),
                entry.shape().word(),
                source,
                TextColumns.formsOrNull(change.after().forms()),
                TextColumns.foldedOrNull(source),
                entry.note(),
                TextColumns.foldedOrNull(entry.note()),
                entry.reference(),
                entry.section(),
                entry.maxLength(),
                entry.translatable(),
                WordCount.of(source),
                order.at(),
                many);
        entryStory.add(id, order.at(), order.person(), "added", null, source, 1, order.intake());
        touch(id, true);
        added = id;
    }

    private void remove(RecordEntry entry) {
        touch(entry);
        places.add(entry.id(), entry.entryId().key(), entry.entryId().context(), true);
        tell(entry, "removed", entry.source().main(), null);
    }

    private void rewrite(Change change, RecordEntry entry) {
        touch(entry);
        rewriting = change;
        String source = change.after().main();
        sources.add(
                entry.id(),
                source,
                TextColumns.formsOrNull(change.after().forms()),
                TextColumns.foldedOrNull(source),
                WordCount.of(source),
                change.choice() == Choice.CHANGED);
        entryStory.add(
                entry.id(),
                order.at(),
                order.person(),
                "source_rewritten",
                entry.source().main(),
                source,
                entry.revision() + 1,
                order.intake());
    }

    private void describe(Change change, RecordEntry entry) {
        touch(entry);
        Map<Field, String> said = change.described().fields();
        String limit = said.get(Field.LIMIT);
        descriptions.add(
                entry.id(),
                said.get(Field.NOTE),
                TextColumns.foldedOrNull(said.getOrDefault(Field.NOTE, "")),
                said.get(Field.REFERENCE),
                said.get(Field.SECTION),
                limit == null ? null : limit.isEmpty() ? 0 : Integer.parseInt(limit));
        tell(entry, "described", change.before().main(), change.after().main());
    }

    private void tell(RecordEntry entry, String what, @Nullable String before, @Nullable String after) {
        entryStory.add(entry.id(), order.at(), order.person(), what, before, after, entry.revision(), order.intake());
    }

    private void text(Change change) {
        Arrival arrives = change.arrives();
        boolean clears = change.choice() == Choice.CLEAR;
        if (arrives == null && !clears) {
            return;
        }
        LanguageTag tag = java.util.Objects.requireNonNull(change.language());
        int language = java.util.Objects.requireNonNull(numbers.get(tag), "language without a number");
        RecordEntry entry = change.entry();
        if (entry == null) {
            int basedOn = change.current() ? 1 : 0;
            CellState state = CellState.of(arrives == Arrival.OFFERED, false, standing(arrives), basedOn, 1);
            insert(added, language, change, java.util.Objects.requireNonNull(arrives), basedOn, state);
            return;
        }
        touch(entry);
        RecordCell mine = entry.cell(tag);
        boolean rewritten = rewriting != null && rewriting.entry() == entry;
        int revision = entry.revision() + (rewritten ? 1 : 0);
        int meaning = rewritten && rewriting.choice() == Choice.CHANGED ? revision : entry.meaningRevision();
        int basedOn = change.current() ? revision : change.after().older() ? meaning - 1 : Math.max(1, revision - 1);
        if (clears) {
            texts.add(entry.id(), language, null, null, null, 0, cleared(mine).ordinal(), 0);
            tell(entry.id(), language, "cleared", change.before(), FileText.NONE, Standing.NONE, 0);
            return;
        }
        boolean offer = arrives == Arrival.OFFERED;
        CellState state = CellState.of(offer || mine.openOffers() > 0, false, standing(arrives), basedOn, meaning);
        if (mine.version() == 0) {
            cellsWere.add(order.intake(), entry.id(), language, 0, 0, 0, 0);
            insert(entry.id(), language, change, java.util.Objects.requireNonNull(arrives), basedOn, state);
        } else if (offer) {
            offered.add(entry.id(), language, basedOn);
            open(entry.id(), language, change.after(), basedOn, mine.version() + 1);
            tell(entry.id(), language, "offered", mine.text(), change.after(), mine.standing(), basedOn);
        } else {
            put(entry.id(), language, change.after(), standing(arrives), state, basedOn);
            tell(entry.id(), language, word(arrives), mine.text(), change.after(), standing(arrives), basedOn);
        }
    }

    private static CellState cleared(RecordCell mine) {
        return CellState.of(mine.openOffers() > 0, false, Standing.NONE, 0, 0);
    }

    private void put(long entry, int language, FileText text, Standing standing, CellState state, int basedOn) {
        texts.add(
                entry,
                language,
                text.main(),
                TextColumns.formsOrNull(text.forms()),
                TextColumns.foldedOrNull(text.main()),
                standing.ordinal(),
                state.ordinal(),
                basedOn);
    }

    private void open(long entry, int language, FileText text, int basedOn, int at) {
        offers.add(
                entry,
                language,
                order.person(),
                text.main(),
                TextColumns.formsOrNull(text.forms()),
                basedOn,
                at,
                order.at(),
                order.intake());
    }

    private void insert(long entry, int language, Change change, Arrival arrives, int basedOn, CellState state) {
        boolean offer = arrives == Arrival.OFFERED;
        Standing standing = offer ? Standing.NONE : standing(arrives);
        FileText text = change.after();
        cells.add(
                entry,
                language,
                offer ? null : text.main(),
                offer ? null : TextColumns.formsOrNull(text.forms()),
                offer ? null : TextColumns.foldedOrNull(text.main()),
                standing.ordinal(),
                state.ordinal(),
                offer ? 0 : basedOn,
                offer ? 0 : 1,
                1,
                "file",
                order.person(),
                order.at(),
                offer ? 1 : 0,
                many);
        if (offer) {
            open(entry, language, text, basedOn, 1);
        }
        tell(entry, language, word(arrives), FileText.NONE, text, standing, basedOn);
    }

    private void tell(
            long entry, int language, String what, FileText before, FileText after, Standing standing, int basedOn) {
        story.add(
                entry,
                language,
                order.at(),
                order.person(),
                what,
                "file",
                before.isEmpty() ? null : before.main(),
                TextColumns.formsOrNull(before.forms()),
                after.isEmpty() ? null : after.main(),
                TextColumns.formsOrNull(after.forms()),
                standing.ordinal(),
                basedOn,
                order.intake());
    }

    private static Standing standing(@Nullable Arrival arrives) {
        return arrives == Arrival.PENCILLED ? Standing.PENCILLED : Standing.SETTLED;
    }

    private static String word(@Nullable Arrival arrives) {
        return java.util.Objects.requireNonNull(arrives).name().toLowerCase(Locale.ROOT);
    }

    private void touch(RecordEntry entry) {
        if (entry.id() != lastTouched) {
            lastTouched = entry.id();
            touch(entry.id(), false);
        }
    }

    private void touch(long id, boolean isNew) {
        touched.add(order.intake(), id, isNew);
        if (few.size() <= FEW) {
            few.add(id);
        }
    }

    /** What went stale: texts that were current and are for an older meaning now, by language. */
    Map<String, Integer> stale() throws SQLException {
        Map<String, Integer> stale = new TreeMap<>();
        if (sources.rows() == 0) {
            return stale;
        }
        try (PreparedStatement statement = connection.prepareStatement(WENT_STALE)) {
            statement.setLong(1, order.intake());
            try (ResultSet row = statement.executeQuery()) {
                while (row.next()) {
                    stale.put(row.getString(1), row.getInt(2));
                }
            }
        }
        return stale;
    }

    /** The entries that the file added or changed, when they are not too many to be counted one by one; else empty. */
    List<Long> few() {
        return touched.rows() > FEW ? List.of() : List.copyOf(few);
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
        places.send(connection);
        sources.send(connection);
        descriptions.send(connection);
        texts.send(connection);
        offered.send(connection);
        boolean entriesChange = places.rows() + sources.rows() + descriptions.rows() > 0;
        if (entriesChange) {
            update(KEEP_ENTRIES, order.intake());
        }
        if (texts.rows() + offered.rows() > 0) {
            update(KEEP_CELLS, order.intake());
        }
        cellsWere.send(connection);
        if (places.rows() > 0) {
            // Before new entries come: one of them may take the key of an entry that goes.
            update(PLACE, order.at(), order.at());
        }
        entries.send(connection);
        entryStory.send(connection);
        touched.send(connection);
        if (sources.rows() > 0) {
            update(REWRITE, order.at());
            update(GO_STALE);
        }
        if (descriptions.rows() > 0) {
            update(DESCRIBE, order.at());
        }
        if (texts.rows() > 0) {
            update(PUT, order.person(), order.at());
        }
        if (offered.rows() > 0) {
            update(SET_ASIDE, order.person(), order.at(), order.person());
            update(OPEN, order.person(), order.at());
        }
        offers.send(connection);
        story.send(connection);
        if (entriesChange) {
            update(NOTE_VERSIONS, order.intake());
        }
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
        for (CopyFile file : List.of(
                entries,
                cells,
                cellsWere,
                offers,
                story,
                entryStory,
                touched,
                sources,
                descriptions,
                places,
                texts,
                offered)) {
            file.close();
        }
    }
}
