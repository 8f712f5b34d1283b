package mellow.server.entry;

import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.SortedMap;
import java.util.TreeMap;
import java.util.TreeSet;
import mellow.core.text.Shape;
import mellow.core.text.Text;
import mellow.server.check.MaskKeeper;
import mellow.server.common.Refusal;
import mellow.server.coverage.CoverageService;
import mellow.server.people.PeopleService;
import mellow.server.record.Stories;
import mellow.server.record.Stories.Telling;
import mellow.server.table.TableInfo;
import mellow.server.table.TableService;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Makes, describes, rewrites, moves and removes entries: story, counters and staleness in the same transaction. Coordinators only. */
@Service
public class EntryService {

    private static final String GOING_STALE =
            """
            select l.tag from cell c join language l on l.id = c.language_id
            join entry e on e.id = c.entry_id
            join table_language t on t.table_id = e.table_id and t.language_id = c.language_id and t.archived_at is null
            where c.entry_id = :entry and c.text is not null and c.based_on >= e.meaning_revision order by t.position
            """;
    private static final int MOST_MADE = 5_000;

    private final EntryRepository entries;
    private final EntryChange changing;
    private final EntryStory story;
    private final Stories stories;
    private final TableService tables;
    private final PeopleService people;
    private final EntryRules rules;
    private final EntryPlaces places;
    private final CoverageService coverage;
    private final MaskKeeper masks;
    private final JdbcClient jdbc;
    private final Clock clock;

    EntryService(
            EntryRepository entries,
            EntryChange changing,
            EntryStory story,
            Stories stories,
            TableService tables,
            PeopleService people,
            EntryRules rules,
            EntryPlaces places,
            CoverageService coverage,
            MaskKeeper masks,
            JdbcClient jdbc,
            Clock clock) {
        this.entries = entries;
        this.changing = changing;
        this.story = story;
        this.stories = stories;
        this.tables = tables;
        this.people = people;
        this.rules = rules;
        this.places = places;
        this.coverage = coverage;
        this.masks = masks;
        this.jdbc = jdbc;
        this.clock = clock;
    }

    /** What came of a change of entries: its number for undo, the entries, and sentences about those that stayed as they are. */
    public record Changed(long change, List<Long> entries, List<String> refused) {}

    /**
     * Makes an entry.
     *
     * @param source its source by form
     * @param after the entry it follows; null puts it at the end
     */
    @Transactional
    public Changed create(
            long person,
            String slug,
            Shape shape,
            Description description,
            SortedMap<String, String> source,
            @Nullable Long after) {
        people.rights(person).requireCoordinator("make entries");
        Instant at = clock.instant();
        TableInfo table = tables.find(slug);
        tables.holdForChange(table.id());
        Entry entry = new Entry(table.id(), shape);
        entry.describe(description);
        entry.say(rules.text(shape, source, table));
        rules.requireFree(table.id(), entry);
        entry.place(table.id(), places.between(table.id(), after).next());
        entry.changed(at);
        entries.saveAndFlush(entry);
        long change = stories.nextChange();
        story.add(
                new Telling(change, person, at, "", null),
                "added",
                List.of(new EntryStory.Line(entry, null, entry.source(), asRemoved(entry))));
        coverage.entriesCame(List.of(entry.id()));
        masks.ofEntries(List.of(entry.id()));
        changing.tell(person, table.id(), "added", List.of(entry.id()), at);
        return new Changed(change, List.of(entry.id()), List.of());
    }

    /** A plain entry to be made among many. */
    public record Made(Description description, String source) {}

    /**
     * Makes plain entries at the end of a table, as one change.
     *
     * @throws Refusal when one of their keys is in use there, or two have the same
     */
    @Transactional
    public Changed createMany(long person, String slug, List<Made> wanted) {
        people.rights(person).requireCoordinator("make entries");
        if (wanted.isEmpty() || wanted.size() > MOST_MADE) {
            throw Refusal.unacceptable(
                    "bad-amount", "Choose 1 to {most} entries.", Map.of("field", "entries", "most", MOST_MADE));
        }
        Instant at = clock.instant();
        TableInfo table = tables.find(slug);
        tables.holdForChange(table.id());
        EntryPlaces.Positions room = places.between(table.id(), null);
        List<Entry> made = new ArrayList<>();
        for (Made one : wanted) {
            Entry entry = new Entry(table.id(), Shape.PLAIN);
            entry.describe(one.description());
            entry.say(rules.text(Shape.PLAIN, new TreeMap<>(Map.of("other", one.source())), table));
            entry.place(table.id(), room.next());
            entry.changed(at);
            made.add(entry);
        }
        rules.requireFree(List.of(), made.stream().map(Entry::snapshot).toList());
        entries.saveAllAndFlush(made);
        long change = stories.nextChange();
        List<Long> ids = made.stream().map(Entry::id).toList();
        story.add(
                new Telling(change, person, at, "", null),
                "added",
                made.stream()
                        .map(entry -> new EntryStory.Line(entry, null, entry.source(), asRemoved(entry)))
                        .toList());
        coverage.entriesCame(ids);
        masks.ofEntries(ids);
        changing.tell(person, table.id(), "added", ids, at);
        return new Changed(change, ids, List.of());
    }

    /** How an entry was before it was made: removed, so that undo takes it out of sight. */
    private static Snapshot asRemoved(Entry entry) {
        Snapshot now = entry.snapshot();
        return new Snapshot(now.table(), now.position(), now.description(), now.source(), 1, now.picture(), true);
    }

    /** Changes what is said about an entry. */
    @Transactional
    public Changed describe(long person, long id, int version, Description description) {
        people.rights(person).requireCoordinator("change entries");
        Entry entry = changing.held(id, version);
        String before = entry.key();
        boolean renames = !entry.key().equals(description.key().strip())
                || !entry.context().equals(description.context().strip());
        return changing.carryOut(person, List.of(entry), renames ? "renamed" : "described", one -> {
            one.describe(description);
            if (renames) {
                rules.requireFree(one.tableId(), one);
            }
            return new EntryChange.Told(renames ? before : null, renames ? one.key() : null);
        });
    }

    /** Changes several entries' section, tags or whether they are for translation; what is null stays. */
    @Transactional
    public Changed describeMany(
            long person,
            List<Long> ids,
            @Nullable String section,
            @Nullable List<String> addTags,
            @Nullable Boolean translatable) {
        people.rights(person).requireCoordinator("change entries");
        return changing.carryOut(person, changing.held(ids), "described", entry -> {
            Description was = entry.description();
            TreeSet<String> tags = new TreeSet<>(was.tags());
            tags.addAll(addTags == null ? List.of() : addTags);
            entry.describe(new Description(
                    was.key(),
                    was.context(),
                    was.note(),
                    was.reference(),
                    section == null ? was.section() : section,
                    was.maxLength(),
                    was.maxLines(),
                    was.maxWidth(),
                    List.copyOf(tags),
                    translatable == null ? was.translatable() : translatable));
            return new EntryChange.Told(null, null);
        });
    }

    /**
     * Rewrites the source.
     *
     * @param meaningChanged makes every text that was made for an earlier source stale
     */
    @Transactional
    public Changed rewrite(
            long person, long id, int version, SortedMap<String, String> source, boolean meaningChanged) {
        people.rights(person).requireCoordinator("rewrite sources");
        Entry entry = changing.held(id, version);
        Text text = rules.text(entry.shape(), source, tables.find(entry.tableId()));
        if (text.equals(entry.sourceText())) {
            throw Refusal.unacceptable("same-source", "This is what the source says already.");
        }
        String before = entry.source();
        return changing.carryOut(person, List.of(entry), "source_rewritten", one -> {
            one.rewrite(text, meaningChanged ? one.sourceRevision() + 1 : one.meaningRevision());
            return new EntryChange.Told(before, one.source());
        });
    }

    /** A source to be rewritten among many; {@code version} is the one that was seen. */
    public record Rewritten(long entry, int version, SortedMap<String, String> source) {}

    /** Rewrites several sources as one change. An entry that moved on meanwhile stays as it is, and a sentence says so. */
    @Transactional
    public Changed rewriteMany(long person, List<Rewritten> wanted, boolean meaningChanged) {
        people.rights(person).requireCoordinator("rewrite sources");
        Map<Long, Rewritten> byEntry = new TreeMap<>();
        wanted.forEach(one -> byEntry.put(one.entry(), one));
        List<String> refused = new ArrayList<>();
        Map<Long, Text> texts = new TreeMap<>();
        Map<Long, TableInfo> in = new TreeMap<>();
        List<Entry> changing = new ArrayList<>();
        for (Entry entry : this.changing.held(byEntry.keySet())) {
            Rewritten one = Objects.requireNonNull(byEntry.get(entry.id()));
            if (entry.removed() || entry.version() != one.version()) {
                refused.add(entry.key() + " was changed by someone else meanwhile and stays as it is.");
                continue;
            }
            TableInfo table = in.computeIfAbsent(entry.tableId(), tables::find);
            texts.put(entry.id(), rules.text(entry.shape(), one.source(), table));
            changing.add(entry);
        }
        if (changing.isEmpty()) {
            throw Refusal.conflict("entry-moved-on", refused.get(0), Map.of());
        }
        Changed changed = this.changing.carryOut(person, changing, "source_rewritten", entry -> {
            String before = entry.source();
            entry.rewrite(
                    Objects.requireNonNull(texts.get(entry.id())),
                    meaningChanged ? entry.sourceRevision() + 1 : entry.meaningRevision());
            return new EntryChange.Told(before, entry.source());
        });
        return new Changed(changed.change(), changed.entries(), refused);
    }

    /** Tags of the languages whose texts would go stale if the source changed its meaning. */
    @Transactional(readOnly = true)
    public List<String> goingStale(long id) {
        return jdbc.sql(GOING_STALE).param("entry", id).query(String.class).list();
    }

    /**
     * Moves entries, keeping their order, texts and story.
     *
     * @param slug the table they shall be in, which may be the one they are in
     * @param after the entry they follow; null puts them at the end
     * @param addLanguages whether the table may get the languages that their texts need
     */
    @Transactional
    public Changed move(long person, List<Long> ids, String slug, @Nullable Long after, boolean addLanguages) {
        people.rights(person).requireCoordinator("move entries");
        TableInfo target = tables.find(slug);
        if (after != null && ids.contains(after)) {
            throw Refusal.unacceptable("after-itself", "An entry cannot follow itself.", Map.of("field", "after"));
        }
        TreeSet<Long> concerned = new TreeSet<>(changing.tablesOf(ids));
        concerned.add(target.id());
        concerned.forEach(tables::holdAlone);
        EntryPlaces.Positions room = places.between(target.id(), after);
        List<Entry> moving = changing.held(ids);
        rules.requireLanguages(target, ids, addLanguages);
        rules.requireFree(target.id(), ids);
        moving.sort(Comparator.comparingLong(Entry::tableId).thenComparingDouble(Entry::position));
        room.spread(moving.size());
        Map<Long, String> names = new TreeMap<>();
        return changing.carryOut(person, moving, "moved", entry -> {
            String from = entry.tableId() == target.id()
                    ? null
                    : names.computeIfAbsent(
                            entry.tableId(), table -> tables.find(table).name());
            entry.place(target.id(), room.next());
            return new EntryChange.Told(from, from == null ? null : target.name());
        });
    }

    /** Takes entries out of sight. They keep everything and can be put back. */
    @Transactional
    public Changed remove(long person, List<Long> ids) {
        people.rights(person).requireCoordinator("remove entries");
        Instant at = clock.instant();
        List<Entry> there =
                changing.held(ids).stream().filter(entry -> !entry.removed()).toList();
        return changing.carryOut(person, there, "removed", entry -> {
            entry.remove(at);
            return new EntryChange.Told(entry.source(), null);
        });
    }

    /** Puts removed entries back where they were. */
    @Transactional
    public Changed putBack(long person, List<Long> ids) {
        people.rights(person).requireCoordinator("put entries back");
        List<Entry> gone = changing.held(ids).stream().filter(Entry::removed).toList();
        rules.requireFree(null, gone.stream().map(Entry::id).toList());
        return changing.carryOut(person, gone, "put_back", entry -> {
            entry.remove(null);
            return new EntryChange.Told(null, entry.source());
        });
    }

    /** Sets or takes away the context picture. */
    @Transactional
    public Changed picture(long person, long id, @Nullable Long file) {
        people.rights(person).requireCoordinator("change pictures");
        return changing.carryOut(person, changing.held(List.of(id)), "picture", entry -> {
            entry.picture(file);
            return new EntryChange.Told(null, null);
        });
    }
}
