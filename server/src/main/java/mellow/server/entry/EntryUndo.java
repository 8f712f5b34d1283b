package mellow.server.entry;

import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.TreeMap;
import mellow.core.text.Text;
import mellow.server.common.Refusal;
import mellow.server.entry.EntryService.Changed;
import mellow.server.entry.EntryStory.Done;
import mellow.server.people.PeopleService;
import org.springframework.jdbc.core.RowCallbackHandler;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Puts entries back to how they were: by taking back a change of one's own, or to before a line of the story. Coordinators only. */
@Service
public class EntryUndo {

    private static final String MADE_SINCE =
            """
            select e.id, count(*) texts from entry e join cell c on c.entry_id = e.id and c.based_on = e.source_revision and c.text is not null
            where e.id = any(:entries) group by e.id
            """;

    private final EntryChange changing;
    private final EntryStory story;
    private final PeopleService people;
    private final EntryRules rules;
    private final JdbcClient jdbc;
    private final Clock clock;

    EntryUndo(
            EntryChange changing,
            EntryStory story,
            PeopleService people,
            EntryRules rules,
            JdbcClient jdbc,
            Clock clock) {
        this.changing = changing;
        this.story = story;
        this.people = people;
        this.rules = rules;
        this.jdbc = jdbc;
        this.clock = clock;
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
        List<Entry> held = changing.held(List.copyOf(byEntry.keySet()));
        Map<Long, Long> madeSince = madeSince(held);
        for (Entry entry : held) {
            Done one = Objects.requireNonNull(byEntry.get(entry.id()));
            Optional<String> against = against(entry, one, madeSince.getOrDefault(entry.id(), 0L));
            against.ifPresentOrElse(refused::add, () -> restorable.add(entry));
        }
        if (restorable.isEmpty()) {
            throw Refusal.conflict("changed-since", refused.get(0), Map.of());
        }
        rules.requireFree(
                restorable.stream().map(Entry::id).toList(),
                restorable.stream()
                        .map(entry ->
                                Objects.requireNonNull(byEntry.get(entry.id())).was())
                        .filter(was -> !was.removed())
                        .toList());
        Changed undone = changing.carryOut(person, restorable, "undone", entry -> {
            restore(entry, Objects.requireNonNull(byEntry.get(entry.id())).was());
            return new EntryChange.Told(null, entry.source());
        });
        return Optional.of(new Changed(undone.change(), undone.entries(), refused));
    }

    /** How many texts were made for the source as it reads now, by entry. */
    private Map<Long, Long> madeSince(List<Entry> entries) {
        Map<Long, Long> made = new TreeMap<>();
        jdbc.sql(MADE_SINCE)
                .param("entries", entries.stream().map(Entry::id).toArray(Long[]::new))
                .query((RowCallbackHandler) row -> made.put(row.getLong("id"), row.getLong("texts")));
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

    /** Puts an entry back to how it was before a line of its story: what is said about it, and its source. */
    @Transactional
    public Changed putBackLine(long person, long id, int version, long line, boolean meaningChanged) {
        people.rights(person).requireCoordinator("change entries");
        Snapshot was = story.before(id, line)
                .orElseThrow(
                        () -> Refusal.notFound("no-such-line", "This line of the story holds nothing to put back."));
        Entry entry = changing.held(id, version);
        String before = entry.source();
        return changing.carryOut(person, List.of(entry), "put_back", one -> {
            one.describe(was.description());
            rules.requireFree(one.tableId(), one);
            Text source = new Text(was.source());
            if (!source.equals(one.sourceText())) {
                one.rewrite(source, meaningChanged ? one.sourceRevision() + 1 : one.meaningRevision());
            }
            return new EntryChange.Told(before, one.source());
        });
    }
}
