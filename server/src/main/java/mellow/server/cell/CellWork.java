package mellow.server.cell;

import jakarta.persistence.EntityManager;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.Deque;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.OptionalLong;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.Function;
import java.util.function.LongSupplier;
import java.util.stream.Collectors;
import mellow.core.cell.Actor;
import mellow.core.cell.Cell;
import mellow.core.cell.CellEvent;
import mellow.core.cell.CellRules;
import mellow.core.cell.CellState;
import mellow.core.cell.Offer;
import mellow.core.cell.Outcome;
import mellow.core.cell.Outcome.Changed;
import mellow.core.cell.Outcome.Reason;
import mellow.core.cell.Outcome.Refused;
import mellow.core.cell.Outcome.What;
import mellow.core.cell.StandingRule;
import mellow.core.check.Finding;
import mellow.core.text.EditDistance;
import mellow.core.text.Text;
import mellow.server.activity.ActivityService;
import mellow.server.cell.CellChange.How;
import mellow.server.cell.CellStory.Told;
import mellow.server.check.CheckService;
import mellow.server.check.Inspector;
import mellow.server.check.MaskKeeper;
import mellow.server.common.Refusal;
import mellow.server.coverage.CoverageService;
import mellow.server.coverage.CoverageService.Moves;
import mellow.server.live.LiveChange;
import mellow.server.live.LiveService;
import mellow.server.people.PeopleService;
import mellow.server.people.Rights;
import mellow.server.record.RecordRows;
import mellow.server.record.Stories.Telling;
import mellow.server.recording.Recordings;
import mellow.server.run.RunService.Progress;
import mellow.server.standing.StandingService;
import mellow.server.table.TableInfo;
import mellow.server.table.TableInfo.Kept;
import mellow.server.table.TableService;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/**
 * Changes one cell or thousands, in one transaction: rights, the versions that were seen, the rules of core, offers, story, counters, activity and the
 * word to open screens. A dozen statements per five hundred cells.
 */
@Component
class CellWork {

    private static final int AT_ONCE = 500;
    /** Other texts may be a machine's, or made for something else; no rule settles them. */
    private static final Set<String> MADE_BY_PEOPLE = Set.of(How.TYPED.word(), How.PASTED.word());

    private final CellRepository cells;
    private final CellStory story;
    private final RecordRows rows;
    private final TableService tables;
    private final PeopleService people;
    private final CoverageService coverage;
    private final ActivityService activity;
    private final LiveService live;
    private final StandingService standing;
    private final Inspector inspector;
    private final MaskKeeper masks;
    private final Recordings recordings;
    private final EntityManager entities;

    CellWork(
            CellRepository cells,
            CellStory story,
            RecordRows rows,
            TableService tables,
            PeopleService people,
            CoverageService coverage,
            ActivityService activity,
            LiveService live,
            StandingService standing,
            Inspector inspector,
            MaskKeeper masks,
            Recordings recordings,
            EntityManager entities) {
        this.cells = cells;
        this.story = story;
        this.rows = rows;
        this.tables = tables;
        this.people = people;
        this.coverage = coverage;
        this.activity = activity;
        this.live = live;
        this.standing = standing;
        this.inspector = inspector;
        this.masks = masks;
        this.recordings = recordings;
        this.entities = entities;
    }

    /** Makes the event for a cell that is held; may refuse. */
    @FunctionalInterface
    interface EventMaker {
        /** {@code offer} gives the number of an offer that the event may open. */
        CellEvent event(Cell cell, EntryRow entry, Kept kept, LongSupplier offer);
    }

    /**
     * A change of one cell.
     *
     * @param version the version that was seen, null for whatever it is
     * @param opened whether somebody looks at this cell by itself
     */
    record Wanted(CellKey key, @Nullable Integer version, boolean opened, EventMaker maker) {}

    /**
     * What came of it.
     *
     * @param changed how many changed
     * @param refused why others did not
     * @param lowered what the checks say against texts that came back pencilled
     */
    record Result(int changed, Map<CellKey, Refusal> refused, Map<CellKey, List<Finding>> lowered) {}

    /** Carries out {@code wanted} as one change. What is refused stays as it is; the caller decides whether that undoes the rest. */
    Result carryOut(Telling telling, List<Wanted> wanted) {
        return carryOut(telling, wanted, Progress.UNWATCHED);
    }

    /** The same, telling how many cells were looked at. */
    Result carryOut(Telling telling, List<Wanted> wanted, Progress progress) {
        Task task = new Task(telling, people.rights(telling.person()));
        List<Long> entryIds =
                wanted.stream().map(one -> one.key().entryId()).distinct().toList();
        for (long table : cells.tablesOf(entryIds)) {
            tables.holdForChange(table);
            task.tables.put(table, tables.find(table));
        }
        List<Wanted> inOrder = wanted.stream()
                .sorted(Comparator.<Wanted>comparingLong(one -> one.key().entryId())
                        .thenComparing(one -> one.key().languageId()))
                .toList();
        for (int from = 0; from < inOrder.size(); from += AT_ONCE) {
            progress.at(from, inOrder.size());
            task.some(inOrder.subList(from, Math.min(inOrder.size(), from + AT_ONCE)));
        }
        task.tell();
        return new Result(task.changed, task.refused, task.lowered);
    }

    /** Adds up what one change does, over its chunks. */
    private final class Task {
        private final Telling telling;
        private final Rights rights;
        private final Map<Long, TableInfo> tables = new HashMap<>();
        private final Map<CellKey, Refusal> refused = new LinkedHashMap<>();
        private final Map<CellKey, List<Finding>> lowered = new LinkedHashMap<>();
        private final Deque<Long> offerNumbers = new ArrayDeque<>();
        private final Moves moves = new Moves();
        private final Map<Place, Integer> happened = new TreeMap<>(Comparator.comparingLong(Place::table)
                .thenComparing(Place::language)
                .thenComparing(Place::what));
        private final Map<Long, TreeSet<Long>> entriesByTable = new TreeMap<>();
        private final Map<Long, TreeSet<String>> languagesByTable = new HashMap<>();
        private final Inspector.Look look = inspector.look();
        private final Map<Integer, Boolean> trusted = new HashMap<>();
        private int changed;
        private int most = 1;

        private record Place(long table, int language, String what) {}

        Task(Telling telling, Rights rights) {
            this.telling = telling;
            this.rights = rights;
        }

        void some(List<Wanted> wanted) {
            most = wanted.size();
            Long[] entryIds = wanted.stream().map(one -> one.key().entryId()).toArray(Long[]::new);
            Integer[] numbers =
                    wanted.stream().map(one -> one.key().languageId()).toArray(Integer[]::new);
            Map<Long, EntryRow> entries =
                    cells
                            .holdEntries(wanted.stream()
                                    .map(one -> one.key().entryId())
                                    .collect(Collectors.toSet()))
                            .stream()
                            .collect(Collectors.toMap(EntryRow::id, entry -> entry));
            Map<CellKey, CellRow> held = held(entryIds, numbers);
            boolean claimed = held.size() < wanted.size();
            if (claimed) {
                rows.claim(entryIds, numbers, telling.person());
                held = held(entryIds, numbers);
            }
            Map<CellKey, List<OfferRow>> made =
                    cells.offers(entryIds, numbers).stream().collect(Collectors.groupingBy(OfferRow::key));
            look.about(List.of(entryIds));
            List<Told> told = new ArrayList<>();
            for (Wanted one : wanted) {
                try {
                    EntryRow entry = entries.get(one.key().entryId());
                    CellRow row = held.get(one.key());
                    if (entry == null || row == null || entry.removed()) {
                        throw Refusal.noSuchEntry();
                    }
                    told.add(step(one, entry, row, made.getOrDefault(one.key(), List.of())));
                } catch (Refusal refusal) {
                    refused.put(one.key(), refusal);
                }
            }
            entities.flush();
            masks.ofTexts(
                    look,
                    told.stream().map(one -> one.key().entryId()).toList(),
                    told.stream().map(one -> one.key().languageId()).collect(Collectors.toSet()));
            story.add(telling, told);
            recordings.follow(told.stream().map(one -> one.key().entryId()).toList());
            if (claimed && !refused.isEmpty()) {
                rows.dropUntouched(entryIds, numbers);
            }
            entities.clear();
        }

        private Map<CellKey, CellRow> held(Long[] entryIds, Integer[] numbers) {
            return cells.hold(entryIds, numbers).stream().collect(Collectors.toMap(CellRow::key, row -> row));
        }

        private Told step(Wanted wanted, EntryRow entry, CellRow row, List<OfferRow> made) {
            TableInfo table = tables.get(entry.tableId());
            Kept kept = table == null
                    ? null
                    : table.languages().stream()
                            .filter(one -> one.number() == wanted.key().languageId())
                            .findFirst()
                            .orElse(null);
            if (table == null || kept == null) {
                throw Refusal.unacceptable("language-not-kept", "The table is not kept in this language.");
            }
            if (!entry.translatable()) {
                throw Refusal.unacceptable(
                        "not-for-translation", "This entry is not for translation; it is the same in every language.");
            }
            if (wanted.version() != null && row.version() != wanted.version()) {
                throw Refusal.conflict(
                        CellService.MOVED_ON,
                        "Someone changed this text meanwhile; both texts are shown, choose one.",
                        Map.of());
            }
            Cell before = row.value(made.stream().map(OfferRow::value).toList());
            Actor actor = new Actor(
                    telling.person(),
                    rights.contributes(kept.tag()),
                    rights.reviews(kept.tag()),
                    kept.settlesOwn(),
                    false);
            CellEvent event = wanted.maker().event(before, entry, kept, this::offerNumber);
            Inspector.Place place = new Inspector.Place(entry.id(), entry.tableId(), kept.number());
            Function<Text, List<Finding>> blockers = text -> look.blockers(place, entry.measure(), text.forms());
            Changed outcome = byRule(
                    require(byPeople(
                            CellRules.apply(before, event, entry.sourceRevision(), actor, blockers),
                            before,
                            row,
                            wanted,
                            kept)),
                    event,
                    entry,
                    kept,
                    actor,
                    blockers);
            if (!outcome.lowered().isEmpty()) {
                lowered.put(wanted.key(), outcome.lowered());
            }
            Cell after = outcome.cell();
            CellState stateBefore = row.state();
            CellState stateAfter = after.state(entry.meaningRevision());
            Offer opened = keepOffers(wanted.key(), before, after, made);
            row.become(after, stateAfter, telling.origin(), telling.person(), telling.at());
            if (entry.counts()) {
                moves.moved(entry.tableId(), kept.number(), stateBefore, stateAfter, entry.words());
            }
            changed++;
            happened.merge(new Place(entry.tableId(), kept.number(), word(outcome.what())), 1, Integer::sum);
            entriesByTable
                    .computeIfAbsent(entry.tableId(), t -> new TreeSet<>())
                    .add(entry.id());
            languagesByTable
                    .computeIfAbsent(entry.tableId(), t -> new TreeSet<>())
                    .add(kept.tag().value());
            return new Told(
                    wanted.key(),
                    outcome.what(),
                    before,
                    after,
                    opened != null ? Long.valueOf(opened.id()) : answered(event),
                    opened != null ? opened.text() : null);
        }

        private static Outcome byPeople(Outcome outcome, Cell before, CellRow row, Wanted wanted, Kept kept) {
            return row.origin().equals(How.DRAFT.word())
                    ? CellRules.byMachine(before, outcome, wanted.opened() || kept.settlesDrafts())
                    : outcome;
        }

        /** What a standing rule makes of a text that was just put forward: settled at once, or as it was. */
        private Changed byRule(
                Changed outcome,
                CellEvent event,
                EntryRow entry,
                Kept kept,
                Actor actor,
                Function<Text, List<Finding>> blockers) {
            if (!(event instanceof CellEvent.PutForward forward)
                    || outcome.what() != What.OFFERED
                    || !MADE_BY_PEOPLE.contains(telling.origin())
                    || !StandingRule.leavesNoChoice(outcome.cell(), entry.meaningRevision())
                    || !trusted.computeIfAbsent(kept.number(), number -> standing.trusting(telling.person(), number)
                            .isPresent())
                    || !sound(forward.text(), entry, kept)) {
                return outcome;
            }
            return require(CellRules.apply(
                    outcome.cell(),
                    new CellEvent.SettleByRule(forward.offerId()),
                    entry.sourceRevision(),
                    actor,
                    blockers));
        }

        /** Taken from the database for as many as are done at once: asked one by one, each would first write out what is not saved yet. */
        private long offerNumber() {
            if (offerNumbers.isEmpty()) {
                offerNumbers.addAll(story.offerNumbers(most));
            }
            return offerNumbers.remove();
        }

        /** Whether neither the checks nor the wordbook find anything to mind. */
        private boolean sound(Text text, EntryRow entry, Kept kept) {
            Inspector.Place place = new Inspector.Place(entry.id(), entry.tableId(), kept.number());
            return look.at(place, entry.measure(), text.forms()).isEmpty();
        }

        /** Saves what became of the offers; the one that was opened, if any. */
        private @Nullable Offer keepOffers(CellKey key, Cell before, Cell after, List<OfferRow> made) {
            Offer opened = null;
            for (Offer offer : after.offers()) {
                OfferRow row = made.stream()
                        .filter(one -> one.id() == offer.id())
                        .findFirst()
                        .orElse(null);
                if (row == null) {
                    String note = Objects.requireNonNullElse(telling.reason(), "");
                    OfferRow fresh =
                            new OfferRow(key.entryId(), key.languageId(), offer, telling.at(), telling.origin(), note);
                    if (!offer.open()) {
                        fresh.settledByRule(offer, telling.at());
                    }
                    entities.persist(fresh);
                    opened = offer;
                } else if (!before.offers().contains(offer)) {
                    row.answered(
                            offer,
                            telling.person(),
                            telling.at(),
                            offer.standing() == Offer.Answer.RETURNED ? telling.reason() : null);
                    if (offer.standing() == Offer.Answer.AMENDED) {
                        after.text().ifPresent(text -> row.amended(EditDistance.between(offer.text(), text)));
                    }
                }
            }
            return opened;
        }

        void tell() {
            coverage.count(moves);
            happened.forEach((place, amount) -> activity.note(
                    telling.person(), place.table(), place.language(), place.what(), 0, amount, telling.at()));
            entriesByTable.forEach((table, entries) -> live.tell(new LiveChange(
                    table, List.copyOf(entries), List.copyOf(Objects.requireNonNull(languagesByTable.get(table))))));
        }
    }

    private static @Nullable Long answered(CellEvent event) {
        OptionalLong offer = event.answers();
        return offer.isPresent() ? offer.getAsLong() : null;
    }

    private static String word(What what) {
        return what.name().toLowerCase(Locale.ROOT);
    }

    private static Changed require(Outcome outcome) {
        if (outcome instanceof Changed changed) {
            return changed;
        }
        Refused refused = (Refused) outcome;
        Reason reason = refused.reason();
        String code = reason.name().toLowerCase(Locale.ROOT).replace('_', '-');
        throw switch (reason) {
            case NO_RIGHT_TO_OFFER, NO_RIGHT_TO_SETTLE, OWN_OFFER, NOT_YOURS ->
                Refusal.forbidden(code, reason.sentence());
            case BLOCKED ->
                Refusal.unacceptable(
                        code,
                        reason.sentence() + " " + Finding.sentences(refused.blockers()),
                        Map.of(
                                "blockers",
                                refused.blockers().stream()
                                        .map(CheckService.FindingReply::of)
                                        .toList()));
            default -> Refusal.unacceptable(code, reason.sentence());
        };
    }
}
