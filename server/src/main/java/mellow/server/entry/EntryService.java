package mellow.server.entry;

import jakarta.persistence.EntityManager;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.SortedMap;
import java.util.TreeMap;
import java.util.TreeSet;
import mellow.core.text.Shape;
import mellow.core.text.Text;
import mellow.server.activity.ActivityService;
import mellow.server.common.Refusal;
import mellow.server.coverage.CoverageService;
import mellow.server.entry.EntryStory.Done;
import mellow.server.live.LiveChange;
import mellow.server.live.LiveService;
import mellow.server.people.PeopleService;
import mellow.server.table.TableInfo;
import mellow.server.table.TableService;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.RowCallbackHandler;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Makes, describes, rewrites, moves and removes entries: story, counters and staleness in the same transaction. Coordinators only. */
@Service
public class EntryService {

    private static final int MOST_AT_ONCE = 20_000;

    /** Stale if and only if the meaning moved on; offers and returns show before that. */
    private static final String STATES_ANEW =
            """
            update cell c set state = case when c.based_on < e.meaning_revision then 2 when c.standing = 2 then 3 else 4 end
            from entry e
            where e.id = c.entry_id and e.id = any(:entries) and c.state in (2, 3, 4)
              and c.state <> case when c.based_on < e.meaning_revision then 2 when c.standing = 2 then 3 else 4 end
            returning c.state
            """;

    private static final String GOING_STALE =
            """
            select l.tag from cell c join language l on l.id = c.language_id
            join entry e on e.id = c.entry_id
            join table_language t on t.table_id = e.table_id and t.language_id = c.language_id and t.archived_at is null
            where c.entry_id = :entry and c.text is not null and c.based_on >= e.meaning_revision order by t.position
            """;
    private static final String MADE_SINCE =
            """
            select e.id, count(*) from entry e join cell c on c.entry_id = e.id and c.based_on = e.source_revision and c.text is not null
            where e.id = any(:entries) group by e.id
            """;

    private final EntryRepository entries;
    private final EntryStory story;
    private final TableService tables;
    private final PeopleService people;
    private final EntryRules rules;
    private final EntryPlaces places;
    private final CoverageService coverage;
    private final ActivityService activity;
    private final LiveService live;
    private final JdbcClient jdbc;
    private final EntityManager entities;
    private final Clock clock;

    EntryService(
            EntryRepository entries,
            EntryStory story,
            TableService tables,
            PeopleService people,
            EntryRules rules,
            EntryPlaces places,
            CoverageService coverage,
            ActivityService activity,
            LiveService live,
            JdbcClient jdbc,
            EntityManager entities,
            Clock clock) {
        this.entries = entries;
        this.story = story;
        this.tables = tables;
        this.people = people;
        this.rules = rules;
        this.places = places;
        this.coverage = coverage;
        this.activity = activity;
        this.live = live;
        this.jdbc = jdbc;
        this.entities = entities;
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
            @Nullable Long after,
            Instant at) {
        people.rights(person).requireCoordinator("make entries");
        TableInfo table = tables.find(slug);
        tables.holdForChange(table.id());
        Entry entry = new Entry(table.id(), shape);
        entry.describe(description);
        entry.say(rules.text(shape, source, table));
        rules.requireFree(table.id(), entry);
        entry.place(table.id(), places.between(table.id(), after).next());
        entry.changed(at);
        entries.saveAndFlush(entry);
        long change = story.nextChange();
        Snapshot none = entry.snapshot();
        Snapshot asRemoved =
                new Snapshot(none.table(), none.position(), none.description(), none.source(), 1, none.picture(), true);
        story.add(change, person, "added", at, List.of(new EntryStory.Line(entry, null, entry.source(), asRemoved)));
        coverage.entriesCame(List.of(entry.id()));
        tell(person, table.id(), "added", List.of(entry.id()), at);
        return new Changed(change, List.of(entry.id()), List.of());
    }

    /** The same now. */
    @Transactional
    public Changed create(
            long person,
            String slug,
            Shape shape,
            Description description,
            SortedMap<String, String> source,
            @Nullable Long after) {
        return create(person, slug, shape, description, source, after, clock.instant());
    }

    /** Changes what is said about an entry. */
    @Transactional
    public Changed describe(long person, long id, int version, Description description) {
        people.rights(person).requireCoordinator("change entries");
        Entry entry = held(id, version);
        String before = entry.key();
        boolean renames = !entry.key().equals(description.key().strip())
                || !entry.context().equals(description.context().strip());
        return change(person, List.of(entry), renames ? "renamed" : "described", one -> {
            one.describe(description);
            if (renames) {
                rules.requireFree(one.tableId(), one);
            }
            return new Told(renames ? before : null, renames ? one.key() : null);
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
        return change(person, held(ids), "described", entry -> {
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
                    List.copyOf(tags),
                    translatable == null ? was.translatable() : translatable));
            return new Told(null, null);
        });
    }

    /**
     * Rewrites the source.
     *
     * @param meaningChanged makes every text that was made for an earlier source stale
     */
    @Transactional
    public Changed rewrite(
            long person, long id, int version, SortedMap<String, String> source, boolean meaningChanged, Instant at) {
        people.rights(person).requireCoordinator("rewrite sources");
        Entry entry = held(id, version);
        Text text = rules.text(entry.shape(), source, tables.find(entry.tableId()));
        if (text.equals(entry.sourceText())) {
            throw Refusal.unacceptable("same-source", "This is what the source says already.");
        }
        String before = entry.source();
        return change(
                person,
                List.of(entry),
                "source_rewritten",
                one -> {
                    one.rewrite(text, meaningChanged ? one.sourceRevision() + 1 : one.meaningRevision());
                    return new Told(before, one.source());
                },
                at);
    }

    /** The same now. */
    @Transactional
    public Changed rewrite(
            long person, long id, int version, SortedMap<String, String> source, boolean meaningChanged) {
        return rewrite(person, id, version, source, meaningChanged, clock.instant());
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
        for (Entry entry : held(byEntry.keySet())) {
            Rewritten one = java.util.Objects.requireNonNull(byEntry.get(entry.id()));
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
        Changed changed = change(person, changing, "source_rewritten", entry -> {
            String before = entry.source();
            entry.rewrite(
                    java.util.Objects.requireNonNull(texts.get(entry.id())),
                    meaningChanged ? entry.sourceRevision() + 1 : entry.meaningRevision());
            return new Told(before, entry.source());
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
        TreeSet<Long> concerned = new TreeSet<>(tablesOf(ids));
        concerned.add(target.id());
        concerned.forEach(tables::holdAlone);
        EntryPlaces.Positions room = places.between(target.id(), after);
        List<Entry> moving = held(ids);
        rules.requireLanguages(target, ids, addLanguages);
        rules.requireFree(target.id(), ids);
        moving.sort(java.util.Comparator.comparingLong(Entry::tableId).thenComparingDouble(Entry::position));
        room.spread(moving.size());
        Map<Long, String> names = new TreeMap<>();
        return change(person, moving, "moved", entry -> {
            String from = entry.tableId() == target.id()
                    ? null
                    : names.computeIfAbsent(
                            entry.tableId(), table -> tables.find(table).name());
            entry.place(target.id(), room.next());
            return new Told(from, from == null ? null : target.name());
        });
    }

    /** Takes entries out of sight. They keep everything and can be put back. */
    @Transactional
    public Changed remove(long person, List<Long> ids) {
        people.rights(person).requireCoordinator("remove entries");
        Instant at = clock.instant();
        List<Entry> there = held(ids).stream().filter(entry -> !entry.removed()).toList();
        return change(person, there, "removed", entry -> {
            entry.remove(at);
            return new Told(entry.source(), null);
        });
    }

    /** Puts removed entries back where they were. */
    @Transactional
    public Changed putBack(long person, List<Long> ids) {
        people.rights(person).requireCoordinator("put entries back");
        List<Entry> gone = held(ids).stream().filter(Entry::removed).toList();
        rules.requireFree(null, gone.stream().map(Entry::id).toList());
        return change(person, gone, "put_back", entry -> {
            entry.remove(null);
            return new Told(null, entry.source());
        });
    }

    /** Puts an entry back to how it was before a line of its story: what is said about it, and its source. */
    @Transactional
    public Changed putBackLine(long person, long id, int version, long line, boolean meaningChanged) {
        people.rights(person).requireCoordinator("change entries");
        Snapshot was = story.before(id, line)
                .orElseThrow(
                        () -> Refusal.notFound("no-such-line", "This line of the story holds nothing to put back."));
        Entry entry = held(id, version);
        String before = entry.source();
        return change(person, List.of(entry), "put_back", one -> {
            one.describe(was.description());
            rules.requireFree(one.tableId(), one);
            Text source = new Text(was.source());
            if (!source.equals(one.sourceText())) {
                one.rewrite(source, meaningChanged ? one.sourceRevision() + 1 : one.meaningRevision());
            }
            return new Told(before, one.source());
        });
    }

    /** Sets or takes away the context picture. */
    @Transactional
    public Changed picture(long person, long id, @Nullable Long file) {
        people.rights(person).requireCoordinator("change pictures");
        return change(person, held(List.of(id)), "picture", entry -> {
            entry.picture(file);
            return new Told(null, null);
        });
    }

    /**
     * Takes back a change of entries of one's own.
     *
     * @return the undo; empty when {@code person} made no such change of entries
     */
    @Transactional
    public Optional<Changed> undo(long person, long change) {
        List<Done> done = story.of(person, change);
        if (done.isEmpty()) {
            return Optional.empty();
        }
        people.rights(person).requireCoordinator("change entries");
        Map<Long, Done> byEntry = new TreeMap<>();
        done.forEach(one -> byEntry.put(one.entry(), one));
        List<String> refused = new ArrayList<>();
        List<Entry> restorable = new ArrayList<>();
        List<Entry> held = held(List.copyOf(byEntry.keySet()));
        Map<Long, Long> madeSince = madeSince(held);
        for (Entry entry : held) {
            Done one = java.util.Objects.requireNonNull(byEntry.get(entry.id()));
            Optional<String> against = against(entry, one, madeSince.getOrDefault(entry.id(), 0L));
            against.ifPresentOrElse(refused::add, () -> restorable.add(entry));
        }
        if (restorable.isEmpty()) {
            throw Refusal.conflict("changed-since", refused.get(0), Map.of());
        }
        rules.requireFree(
                restorable.stream().map(Entry::id).toList(),
                restorable.stream()
                        .map(entry -> java.util.Objects.requireNonNull(byEntry.get(entry.id()))
                                .was())
                        .filter(was -> !was.removed())
                        .toList());
        Changed undone = change(person, restorable, "undone", entry -> {
            restore(
                    entry,
                    java.util.Objects.requireNonNull(byEntry.get(entry.id())).was());
            return new Told(null, entry.source());
        });
        return Optional.of(new Changed(undone.change(), undone.entries(), refused));
    }

    /** How many texts were made for the source as it reads now, by entry. */
    private Map<Long, Long> madeSince(List<Entry> entries) {
        Map<Long, Long> made = new TreeMap<>();
        jdbc.sql(MADE_SINCE)
                .param("entries", entries.stream().map(Entry::id).toArray(Long[]::new))
                .query((RowCallbackHandler) row -> made.put(row.getLong(1), row.getLong(2)));
        return made;
    }

    private static Optional<String> against(Entry entry, Done done, long made) {
        if (entry.version() != done.version()) {
            return Optional.of(entry.key() + " was changed again since; put back the line of its story that you want.");
        }
        boolean otherSource = !new Text(done.was().source()).equals(entry.sourceText());
        return !otherSource || made == 0
                ? Optional.empty()
                : Optional.of(made + " texts were made for the new source of " + entry.key()
                        + " since; rewrite the source instead, so that they are looked at.");
    }

    private void restore(Entry entry, Snapshot was) {
        entry.describe(was.description());
        entry.place(was.table(), was.position());
        entry.picture(was.picture());
        if (entry.removed() && !was.removed()) {
            entry.remove(null);
        } else if (!entry.removed() && was.removed()) {
            entry.remove(clock.instant());
        }
        Text source = new Text(was.source());
        if (!source.equals(entry.sourceText())) {
            entry.rewrite(source, was.meaningRevision());
        }
    }

    /** What the story tells of a change: before and after. */
    private record Told(@Nullable String before, @Nullable String after) {}

    @FunctionalInterface
    private interface Step {
        Told of(Entry entry);
    }

    private Changed change(long person, List<Entry> changing, String what, Step step) {
        return change(person, changing, what, step, clock.instant());
    }

    private Changed change(long person, List<Entry> changing, String what, Step step, Instant at) {
        List<Long> ids = changing.stream().map(Entry::id).toList();
        TreeSet<Long> concerned = new TreeSet<>();
        changing.forEach(entry -> concerned.add(entry.tableId()));
        long change = story.nextChange();
        int[] gone = new int[1];
        coverage.around(ids, () -> {
            List<EntryStory.Line> lines = new ArrayList<>();
            for (Entry entry : changing) {
                Snapshot was = entry.snapshot();
                Told told = step.of(entry);
                entry.changed(at);
                concerned.add(entry.tableId());
                lines.add(new EntryStory.Line(entry, told.before(), told.after(), was));
            }
            entities.flush();
            story.add(change, person, what, at, lines);
            gone[0] = (int)
                    jdbc
                            .sql(STATES_ANEW)
                            .param("entries", ids.toArray(Long[]::new))
                            .query(Integer.class)
                            .list()
                            .stream()
                            .filter(state -> state == 2)
                            .count();
        });
        concerned.forEach(table -> tell(person, table, what, ids, at));
        if (gone[0] > 0) {
            activity.note(person, concerned.first(), ActivityService.NO_LANGUAGE, "went_stale", 0, gone[0], at);
        }
        return new Changed(change, ids, List.of());
    }

    private void tell(long person, long table, String what, List<Long> ids, Instant at) {
        activity.note(person, table, ActivityService.NO_LANGUAGE, what, 0, ids.size(), at);
        live.tell(new LiveChange(table, ids, List.of()));
    }

    private List<Entry> held(Collection<Long> ids) {
        if (ids.isEmpty() || ids.size() > MOST_AT_ONCE) {
            throw Refusal.unacceptable(
                    "bad-amount", "Choose 1 to " + MOST_AT_ONCE + " entries.", Map.of("field", "entries"));
        }
        tablesOf(ids).forEach(tables::holdForChange);
        List<Entry> held = new ArrayList<>(entries.hold(ids));
        if (held.isEmpty()) {
            throw noSuchEntry();
        }
        return held;
    }

    private List<Long> tablesOf(Collection<Long> ids) {
        return jdbc.sql("select distinct table_id from entry where id = any(:ids) order by 1")
                .param("ids", ids.toArray(Long[]::new))
                .query(Long.class)
                .list();
    }

    private Entry held(long id, int version) {
        Entry entry = held(List.of(id)).get(0);
        if (entry.removed()) {
            throw noSuchEntry();
        }
        if (entry.version() != version) {
            throw Refusal.conflict(
                    "entry-moved-on",
                    "Someone changed this entry meanwhile; look at it again, then repeat your change.",
                    Map.of());
        }
        return entry;
    }

    private static Refusal noSuchEntry() {
        return Refusal.notFound("no-such-entry", "This entry does not exist any more.");
    }
}
