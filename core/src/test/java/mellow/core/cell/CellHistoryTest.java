package mellow.core.cell;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.Deque;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.TreeMap;
import mellow.core.cell.CellEvent.Amend;
import mellow.core.cell.CellEvent.Clear;
import mellow.core.cell.CellEvent.Pencil;
import mellow.core.cell.CellEvent.PutBack;
import mellow.core.cell.CellEvent.PutForward;
import mellow.core.cell.CellEvent.Return;
import mellow.core.cell.CellEvent.Settle;
import mellow.core.cell.CellEvent.StillHolds;
import mellow.core.cell.CellEvent.Undo;
import mellow.core.cell.CellEvent.Withdraw;
import mellow.core.cell.Outcome.Changed;
import mellow.core.cell.Outcome.Reason;
import mellow.core.cell.Outcome.Refused;
import mellow.core.check.Finding;
import mellow.core.text.Text;
import org.junit.jupiter.api.Test;

/** Walks random histories of a small scope beside a naive model that remembers whole cells and never computes a difference. */
class CellHistoryTest {

    private static final int HISTORIES = 10_000;
    private static final int STEPS = 30;
    private static final int CELLS = 3;
    /** The checks find something in this text. */
    private static final String BLOCKED = "text 3";

    private static final List<Actor> ACTORS = List.of(
            new Actor(1, true, false, false, false),
            new Actor(2, true, false, false, false),
            new Actor(3, true, true, false, false),
            new Actor(4, true, true, true, false),
            new Actor(5, false, false, false, false));

    /** What the model believes of a cell. */
    private static final class Model {
        String text = "";
        boolean settled;
        int madeFor;
        /** Open offers by author. */
        final Map<Long, String> waiting = new TreeMap<>();

        boolean returnedLast;

        Model copy() {
            Model copy = new Model();
            copy.text = text;
            copy.settled = settled;
            copy.madeFor = madeFor;
            copy.waiting.putAll(waiting);
            copy.returnedLast = returnedLast;
            return copy;
        }

        void inForce(String now, boolean nowSettled, int revision) {
            text = now;
            settled = nowSettled;
            madeFor = now.isEmpty() ? 0 : revision;
            returnedLast = false;
        }

        /** Whether it is the settled text already, made for the source as it reads. */
        boolean says(String other, int revision) {
            return settled && text.equals(other) && madeFor == revision;
        }

        CellState state(int meaning) {
            if (!waiting.isEmpty()) return CellState.OFFERED;
            if (returnedLast) return CellState.RETURNED;
            if (text.isEmpty()) return CellState.UNTRANSLATED;
            if (madeFor < meaning) return CellState.STALE;
            return settled ? CellState.SETTLED : CellState.PENCILLED;
        }
    }

    private record Step(CellWas was, Model before) {}

    @Test
    void tenThousandHistoriesAgreeWithTheModel() {
        Map<String, Integer> reasons = new TreeMap<>();
        for (int seed = 0; seed < HISTORIES; seed++) {
            walk(seed, reasons);
        }
        List<Reason> every = new ArrayList<>(List.of(Reason.values()));
        // Asked beside the events, where a text was drafted.
        every.remove(Reason.MACHINE_TEXT);
        assertThat(reasons.keySet())
                .as("every reason was met")
                .containsAll(every.stream().map(Reason::name).toList());
    }

    private static void walk(int seed, Map<String, Integer> reasons) {
        Random random = new Random(seed);
        List<Cell> cells = new ArrayList<>();
        List<Model> models = new ArrayList<>();
        List<Deque<Step>> last = new ArrayList<>();
        for (int i = 0; i < CELLS; i++) {
            cells.add(Cell.EMPTY);
            models.add(new Model());
            last.add(new ArrayDeque<>());
        }
        int revision = 1;
        int meaning = 1;
        for (int step = 0; step < STEPS; step++) {
            if (random.nextInt(8) == 0) {
                revision++;
                meaning = random.nextBoolean() ? revision : meaning;
            }
            int at = random.nextInt(CELLS);
            Cell cell = cells.get(at);
            Model model = models.get(at);
            Actor actor = ACTORS.get(random.nextInt(ACTORS.size()));
            CellEvent event = event(random, cell, last.get(at), 100 + step, revision, actor);
            Model next = last.get(at).isEmpty() || !(event instanceof Undo)
                    ? model.copy()
                    : last.get(at).peek().before().copy();
            Optional<Reason> foretold = foretold(model, next, cell, event, revision, actor);
            Outcome outcome = CellRules.apply(cell, event, revision, actor, CellHistoryTest::blockers);
            String as = "seed %d, step %d: %s by %s".formatted(seed, step, event, actor);
            assertThat(outcome instanceof Refused refused ? Optional.of(refused.reason()) : Optional.<Reason>empty())
                    .as(as)
                    .isEqualTo(foretold);
            reasons.merge(foretold.map(Reason::name).orElse("none"), 1, Integer::sum);
            if (outcome instanceof Changed changed) {
                Model before = model.copy();
                if (!(event instanceof Undo)) {
                    follow(next, cell, event, revision, actor);
                }
                boolean lowered = next.settled && comesIntoForce(model, next) && next.text.equals(BLOCKED);
                next.settled &= !lowered;
                assertThat(changed.lowered().isEmpty()).as(as).isEqualTo(!lowered);
                assertThat(changed.cell().version()).isEqualTo(cell.version() + 1);
                last.get(at).clear();
                last.get(at).push(new Step(CellWas.between(cell, changed.cell()), before));
                cells.set(at, changed.cell());
                models.set(at, next);
            }
            Map<CellState, Integer> counted = new EnumMap<>(CellState.class);
            for (int i = 0; i < CELLS; i++) {
                CellState state = cells.get(i).state(meaning);
                assertThat(state)
                        .as("seed %d, step %d, cell %d after %s", seed, step, i, event)
                        .isEqualTo(models.get(i).state(meaning));
                assertThat(cells.get(i).text().map(Text::main).orElse("")).isEqualTo(models.get(i).text);
                counted.merge(state, 1, Integer::sum);
            }
            assertThat(counted.values().stream().mapToInt(n -> n).sum()).isEqualTo(CELLS);
        }
    }

    private static List<Finding> blockers(Text text) {
        return text.main().equals(BLOCKED) ? List.of(CellRulesTest.MISSING) : List.of();
    }

    private static boolean comesIntoForce(Model model, Model next) {
        return next.settled && !(model.settled && model.text.equals(next.text));
    }

    /**
     * Why the event is refused, as record.md and the package tell it; empty when it is not.
     *
     * @param undone how the model was before the change that an undo takes back
     */
    private static Optional<Reason> foretold(
            Model model, Model undone, Cell cell, CellEvent event, int revision, Actor actor) {
        boolean mayOffer = actor.contributes();
        boolean maySettle = actor.reviews();
        if (event instanceof Pencil) {
            return first(!mayOffer, Reason.NO_RIGHT_TO_OFFER, model.settled, Reason.SETTLED_IS_NOT_PENCILLED_OVER);
        } else if (event instanceof PutForward forward) {
            return putForward(model, forward.text().main(), revision, actor);
        } else if (event instanceof CellEvent.MakeOffer made) {
            return first(
                    !mayOffer,
                    Reason.NO_RIGHT_TO_OFFER,
                    model.says(made.text().main(), revision),
                    Reason.SAME_AS_IN_FORCE);
        } else if (event instanceof StillHolds) {
            boolean fresh = !model.text.isEmpty() && model.madeFor == revision;
            if (!fresh && !model.text.isEmpty() && mayOffer && !maySettle) {
                return putForward(model, model.text, revision, actor);
            }
            return first(
                    fresh,
                    Reason.NOT_STALE,
                    !maySettle,
                    Reason.NO_RIGHT_TO_SETTLE,
                    model.text.isEmpty(),
                    Reason.NOTHING_IN_FORCE);
        } else if (event instanceof Clear) {
            return first(!maySettle, Reason.NO_RIGHT_TO_SETTLE, model.text.isEmpty(), Reason.NOTHING_IN_FORCE);
        } else if (event instanceof PutBack back) {
            boolean settles = back.standing() == Standing.SETTLED;
            boolean stood = model.settled && model.text.equals(back.text().main());
            return first(
                    (settles || model.settled) && !maySettle,
                    Reason.NO_RIGHT_TO_SETTLE,
                    !mayOffer,
                    Reason.NO_RIGHT_TO_OFFER,
                    settles && !stood && back.author() == actor.person() && !actor.settlesOwn(),
                    Reason.OWN_OFFER);
        } else if (event instanceof Undo undo) {
            boolean touches = (model.settled || undone.settled)
                    && !(model.text.equals(undone.text)
                            && model.settled == undone.settled
                            && model.madeFor == undone.madeFor);
            return first(
                    !mayOffer,
                    Reason.NO_RIGHT_TO_OFFER,
                    undo.version() != cell.version(),
                    Reason.CHANGED_SINCE,
                    touches && !maySettle,
                    Reason.NO_RIGHT_TO_SETTLE,
                    comesIntoForce(model, undone) && undo.aloneBy() == actor.person() && !actor.settlesOwn(),
                    Reason.OWN_OFFER);
        }
        return answering(model, cell, event, actor);
    }

    private static Optional<Reason> putForward(Model model, String text, int revision, Actor actor) {
        boolean settles = actor.reviews() && actor.settlesOwn();
        boolean stood = model.settled && model.text.equals(text);
        return first(
                !actor.contributes(),
                Reason.NO_RIGHT_TO_OFFER,
                model.says(text, revision),
                Reason.SAME_AS_IN_FORCE,
                settles && !stood && text.equals(BLOCKED),
                Reason.BLOCKED);
    }

    private static Optional<Reason> answering(Model model, Cell cell, CellEvent event, Actor actor) {
        long id = event instanceof Settle settle
                ? settle.offerId()
                : event instanceof Amend amend
                        ? amend.offerId()
                        : event instanceof Return back ? back.offerId() : ((Withdraw) event).offerId();
        Optional<Offer> offer = cell.offers().stream()
                .filter(one -> one.id() == id && one.open())
                .findFirst();
        boolean mine = offer.filter(one -> one.author() == actor.person()).isPresent();
        if (event instanceof Withdraw) {
            return first(offer.isEmpty(), Reason.OFFER_NOT_OPEN, !mine, Reason.NOT_YOURS);
        }
        if (event instanceof Return back) {
            return first(
                    !actor.reviews(),
                    Reason.NO_RIGHT_TO_SETTLE,
                    offer.isEmpty(),
                    Reason.OFFER_NOT_OPEN,
                    back.reason().isBlank(),
                    Reason.REASON_MISSING);
        }
        String text = event instanceof Amend amend
                ? amend.text().main()
                : offer.map(one -> one.text().main()).orElse("");
        boolean intoOwn = event instanceof Amend
                && cell.offers().stream()
                        .anyMatch(one -> one.author() == actor.person()
                                && one.text().main().equals(text));
        boolean stood = model.settled && model.text.equals(text);
        return first(
                !actor.reviews(),
                Reason.NO_RIGHT_TO_SETTLE,
                offer.isEmpty(),
                Reason.OFFER_NOT_OPEN,
                !actor.settlesOwn() && (mine || (intoOwn && !stood)),
                Reason.OWN_OFFER,
                !stood && text.equals(BLOCKED),
                Reason.BLOCKED);
    }

    /** The first reason of the pairs whose condition holds. */
    private static Optional<Reason> first(Object... conditionsAndReasons) {
        for (int i = 0; i < conditionsAndReasons.length; i += 2) {
            if ((boolean) conditionsAndReasons[i]) {
                return Optional.of((Reason) conditionsAndReasons[i + 1]);
            }
        }
        return Optional.empty();
    }

    private static CellEvent event(
            Random random, Cell cell, Deque<Step> last, long newOffer, int revision, Actor actor) {
        Text text = Text.plain("text " + random.nextInt(4));
        List<Offer> open = cell.offers().stream().filter(Offer::open).toList();
        long offer = open.isEmpty() ? 1 : open.get(random.nextInt(open.size())).id();
        long alone = random.nextBoolean() ? actor.person() : 0;
        return switch (random.nextInt(12)) {
            case 0, 1 -> new Pencil(text);
            case 2 -> new PutForward(text, newOffer);
            case 3 -> new CellEvent.MakeOffer(text, newOffer);
            case 4 -> new Settle(offer, random.nextBoolean());
            case 5 -> new Amend(offer, text);
            case 6 -> new Return(offer, random.nextInt(4) == 0 ? " " : "reason");
            case 7 -> new Withdraw(offer);
            case 8 -> new StillHolds(newOffer);
            case 9 -> new Clear();
            case 10 ->
                new PutBack(
                        text,
                        random.nextBoolean() ? Standing.SETTLED : Standing.PENCILLED,
                        Math.max(1, revision - random.nextInt(2)),
                        alone);
            default ->
                last.isEmpty()
                        ? new Clear()
                        : new Undo(
                                cell.version() - random.nextInt(5) / 4,
                                last.peek().was(),
                                alone);
        };
    }

    /** The events as record.md's table tells them, for an event that was allowed. */
    private static void follow(Model model, Cell cell, CellEvent event, int revision, Actor actor) {
        if (event instanceof Pencil pencil) {
            model.inForce(pencil.text().main(), false, revision);
        } else if (event instanceof PutForward forward) {
            forward(model, forward.text().main(), revision, actor);
        } else if (event instanceof CellEvent.MakeOffer made) {
            model.waiting.put(actor.person(), made.text().main());
            model.returnedLast = false;
        } else if (event instanceof StillHolds && !actor.reviews()) {
            forward(model, model.text, revision, actor);
        } else if (event instanceof StillHolds) {
            model.madeFor = revision;
        } else if (event instanceof Clear) {
            model.inForce("", false, 0);
            // With no text in force, nothing is newer than a return.
            model.returnedLast = newest(cell)
                    .filter(offer -> offer.standing() == Offer.Answer.RETURNED)
                    .isPresent();
        } else if (event instanceof PutBack back) {
            model.inForce(back.text().main(), back.standing() == Standing.SETTLED, back.basedOn());
        } else if (event instanceof Settle settle) {
            Offer offer = offer(cell, settle.offerId());
            model.waiting.clear();
            model.inForce(offer.text().main(), true, settle.meaningConfirmed() ? revision : offer.basedOn());
        } else if (event instanceof Amend amend) {
            model.waiting.clear();
            model.inForce(amend.text().main(), true, revision);
        } else if (event instanceof Return back) {
            Offer offer = offer(cell, back.offerId());
            model.waiting.remove(offer.author());
            model.returnedLast = newest(cell)
                    .filter(one -> one.id() == offer.id()
                            || (one.standing() == Offer.Answer.RETURNED && one.answeredAt() > cell.textAt()))
                    .isPresent();
        } else if (event instanceof Withdraw withdraw) {
            Offer offer = offer(cell, withdraw.offerId());
            model.waiting.remove(offer.author());
            Optional<Offer> left = cell.offers().stream()
                    .filter(one -> one.id() != offer.id() && one.standing() != Offer.Answer.WITHDRAWN)
                    .max(Comparator.comparingInt(Offer::openedAt));
            model.returnedLast = left.filter(one -> one.standing() == Offer.Answer.RETURNED)
                    .filter(one -> one.answeredAt() > cell.textAt())
                    .isPresent();
        }
    }

    private static void forward(Model model, String text, int revision, Actor actor) {
        if (actor.reviews() && actor.settlesOwn()) {
            model.waiting.clear();
            model.inForce(text, true, revision);
        } else {
            model.waiting.put(actor.person(), text);
            model.returnedLast = false;
        }
    }

    private static Offer offer(Cell cell, long id) {
        return cell.offers().stream().filter(one -> one.id() == id).findFirst().orElseThrow();
    }

    private static Optional<Offer> newest(Cell cell) {
        return cell.offers().stream()
                .filter(one -> one.standing() != Offer.Answer.WITHDRAWN)
                .max(Comparator.comparingInt(Offer::openedAt));
    }
}
