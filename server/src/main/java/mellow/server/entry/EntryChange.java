package mellow.server.entry;

import jakarta.persistence.EntityManager;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.TreeSet;
import mellow.server.activity.ActivityService;
import mellow.server.check.MaskKeeper;
import mellow.server.common.Refusal;
import mellow.server.coverage.CoverageService;
import mellow.server.entry.EntryService.Changed;
import mellow.server.live.LiveChange;
import mellow.server.live.LiveService;
import mellow.server.record.CellStates;
import mellow.server.record.Stories;
import mellow.server.record.Stories.Telling;
import mellow.server.recording.Recordings;
import mellow.server.table.TableService;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** How every change of entries goes: they are held, changed, and told of; counters, states of cells and open screens follow in the same transaction. */
@Component
class EntryChange {

    private static final int MOST_AT_ONCE = 20_000;

    private final EntryRepository entries;
    private final EntryStory story;
    private final Stories stories;
    private final CellStates states;
    private final MaskKeeper masks;
    private final Recordings recordings;
    private final TableService tables;
    private final CoverageService coverage;
    private final ActivityService activity;
    private final LiveService live;
    private final JdbcClient jdbc;
    private final EntityManager entities;
    private final Clock clock;

    EntryChange(
            EntryRepository entries,
            EntryStory story,
            Stories stories,
            CellStates states,
            MaskKeeper masks,
            Recordings recordings,
            TableService tables,
            CoverageService coverage,
            ActivityService activity,
            LiveService live,
            JdbcClient jdbc,
            EntityManager entities,
            Clock clock) {
        this.entries = entries;
        this.story = story;
        this.stories = stories;
        this.states = states;
        this.masks = masks;
        this.recordings = recordings;
        this.tables = tables;
        this.coverage = coverage;
        this.activity = activity;
        this.live = live;
        this.jdbc = jdbc;
        this.entities = entities;
        this.clock = clock;
    }

    /** What the story tells of a change: before and after. */
    record Told(@Nullable String before, @Nullable String after) {}

    @FunctionalInterface
    interface Step {
        Told of(Entry entry);
    }

    /** Carries out one step on each entry: {@code what} is told in their stories, and all that hangs on them follows. */
    Changed carryOut(long person, List<Entry> changing, String what, Step step) {
        Instant at = clock.instant();
        List<Long> ids = changing.stream().map(Entry::id).toList();
        TreeSet<Long> concerned = new TreeSet<>();
        changing.forEach(entry -> concerned.add(entry.tableId()));
        long change = stories.nextChange();
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
            story.add(new Telling(change, person, at, "", null), what, lines);
            gone[0] = states.anew(ids);
            masks.ofEntries(ids);
        });
        recordings.follow(ids);
        concerned.forEach(table -> tell(person, table, what, ids, at));
        if (gone[0] > 0) {
            activity.note(person, concerned.first(), ActivityService.NO_LANGUAGE, "went_stale", 0, gone[0], at);
        }
        return new Changed(change, ids, List.of());
    }

    /** Tells what happened to entries of a table. */
    void tell(long person, long table, String what, List<Long> ids, Instant at) {
        activity.note(person, table, ActivityService.NO_LANGUAGE, what, 0, ids.size(), at);
        live.tell(new LiveChange(table, ids, List.of()));
    }

    /** The entries, held against other changes. */
    List<Entry> held(Collection<Long> ids) {
        if (ids.isEmpty() || ids.size() > MOST_AT_ONCE) {
            throw Refusal.unacceptable(
                    "bad-amount", "Choose 1 to {most} entries.", Map.of("field", "entries", "most", MOST_AT_ONCE));
        }
        tablesOf(ids).forEach(tables::holdForChange);
        List<Entry> held = new ArrayList<>(entries.hold(ids));
        if (held.isEmpty()) {
            throw Refusal.noSuchEntry();
        }
        return held;
    }

    List<Long> tablesOf(Collection<Long> ids) {
        return jdbc.sql("select distinct table_id from entry where id = any(:ids) order by 1")
                .param("ids", ids.toArray(Long[]::new))
                .query(Long.class)
                .list();
    }

    /** One entry at the version that was seen. */
    Entry held(long id, int version) {
        Entry entry = held(List.of(id)).get(0);
        if (entry.removed()) {
            throw Refusal.noSuchEntry();
        }
        if (entry.version() != version) {
            throw Refusal.conflict(
                    "entry-moved-on",
                    "Someone changed this entry meanwhile; look at it again, then repeat your change.",
                    Map.of());
        }
        return entry;
    }
}
