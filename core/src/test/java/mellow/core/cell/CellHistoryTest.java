package mellow.core.cell;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import mellow.core.cell.CellEvent.Amend;
import mellow.core.cell.CellEvent.Clear;
import mellow.core.cell.CellEvent.Pencil;
import mellow.core.cell.CellEvent.PutForward;
import mellow.core.cell.CellEvent.Return;
import mellow.core.cell.CellEvent.Settle;
import mellow.core.cell.CellEvent.StillHolds;
import mellow.core.cell.CellEvent.Undo;
import mellow.core.cell.CellEvent.Withdraw;
import mellow.core.cell.Outcome.Changed;
import mellow.core.text.Text;
import org.junit.jupiter.api.Test;

/** Walks random histories of a small scope beside a naive model that remembers whole cells and never computes a difference. */
class CellHistoryTest {

    private static final int HISTORIES = 10_000;
    private static final int STEPS = 30;
    private static final int CELLS = 3;
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
        final Map<Long, String> waiting = new java.util.TreeMap<>();

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
        for (int seed = 0; seed < HISTORIES; seed++) {
            walk(seed);
        }
    }

    private static void walk(int seed) {
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
            CellEvent event = event(random, cell, last.get(at), 100 + step);
            if (CellRules.apply(cell, event, revision, actor) instanceof Changed changed) {
                Model before = model.copy();
                Model next =
                        event instanceof Undo ? last.get(at).peek().before().copy() : model.copy();
                if (!(event instanceof Undo)) {
                    follow(next, cell, event, revision, actor);
                }
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

    private static CellEvent event(Random random, Cell cell, Deque<Step> last, long newOffer) {
        Text text = Text.plain("text " + random.nextInt(4));
        List<Offer> open = cell.offers().stream().filter(Offer::open).toList();
        long offer = open.isEmpty() ? 1 : open.get(random.nextInt(open.size())).id();
        return switch (random.nextInt(11)) {
            case 0, 1 -> new Pencil(text);
            case 2 -> new PutForward(text, newOffer);
            case 3 -> new CellEvent.MakeOffer(text, newOffer);
            case 4 -> new Settle(offer, random.nextBoolean());
            case 5 -> new Amend(offer, text);
            case 6 -> new Return(offer, "reason");
            case 7 -> new Withdraw(offer);
            case 8 -> new StillHolds(newOffer);
            case 9 -> new Clear();
            default ->
                last.isEmpty()
                        ? new Clear()
                        : new Undo(cell.version(), last.peek().was());
        };
    }

    /** The events as record.md's table tells them, for an event that was allowed. */
    private static void follow(Model model, Cell cell, CellEvent event, int revision, Actor actor) {
        if (event instanceof Pencil pencil) {
            model.inForce(pencil.text().main(), false, revision);
        } else if (event instanceof PutForward forward) {
            putForward(model, forward.text().main(), revision, actor);
        } else if (event instanceof CellEvent.MakeOffer made) {
            model.waiting.put(actor.person(), made.text().main());
            model.returnedLast = false;
        } else if (event instanceof StillHolds && !actor.reviews()) {
            putForward(model, model.text, revision, actor);
        } else if (event instanceof StillHolds) {
            model.madeFor = revision;
        } else if (event instanceof Clear) {
            model.inForce("", false, 0);
            // With no text in force, nothing is newer than a return.
            model.returnedLast = newest(cell)
                    .filter(offer -> offer.standing() == Offer.Answer.RETURNED)
                    .isPresent();
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
                    .max(java.util.Comparator.comparingInt(Offer::openedAt));
            model.returnedLast = left.filter(one -> one.standing() == Offer.Answer.RETURNED)
                    .filter(one -> one.answeredAt() > cell.textAt())
                    .isPresent();
        }
    }

    private static void putForward(Model model, String text, int revision, Actor actor) {
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
                .max(java.util.Comparator.comparingInt(Offer::openedAt));
    }
}
