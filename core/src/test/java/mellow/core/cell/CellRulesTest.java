package mellow.core.cell;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import mellow.core.cell.CellEvent.Amend;
import mellow.core.cell.CellEvent.Clear;
import mellow.core.cell.CellEvent.Pencil;
import mellow.core.cell.CellEvent.PutBack;
import mellow.core.cell.CellEvent.PutForward;
import mellow.core.cell.CellEvent.Return;
import mellow.core.cell.CellEvent.Settle;
import mellow.core.cell.CellEvent.SettleByRule;
import mellow.core.cell.CellEvent.StillHolds;
import mellow.core.cell.CellEvent.Undo;
import mellow.core.cell.CellEvent.Withdraw;
import mellow.core.cell.Offer.Answer;
import mellow.core.cell.Outcome.Changed;
import mellow.core.cell.Outcome.Reason;
import mellow.core.cell.Outcome.Refused;
import mellow.core.check.Finding;
import mellow.core.check.Kind;
import mellow.core.text.Text;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class CellRulesTest {

    private static final Actor CONTRIBUTOR = new Actor(1, true, false, false, false);
    private static final Actor OTHER_CONTRIBUTOR = new Actor(2, true, false, false, false);
    private static final Actor REVIEWER = new Actor(3, true, true, false, false);
    private static final Actor OWN_SETTLER = new Actor(4, true, true, true, false);
    private static final Actor READER = new Actor(5, false, false, false, false);
    private static final Actor MACHINE = new Actor(6, false, false, false, true);
    private static final Text RAMPE = Text.plain("Rampe");
    private static final Text KLAPPE = Text.plain("Klappe");

    private Cell after(Cell cell, CellEvent event, int revision, Actor actor) {
        Outcome outcome = CellRules.apply(cell, event, revision, actor, CellRulesTest::blockers);
        assertThat(outcome).isInstanceOf(Changed.class);
        return ((Changed) outcome).cell();
    }

    private Reason refused(Cell cell, CellEvent event, Actor actor) {
        return ((Refused) CellRules.apply(cell, event, 1, actor, CellRulesTest::blockers)).reason();
    }

    private Cell offered() {
        return after(Cell.EMPTY, new PutForward(RAMPE, 10), 1, CONTRIBUTOR);
    }

    private Outcome byMachine(Cell drafted, CellEvent event, Actor actor, boolean opened) {
        Outcome outcome = CellRules.apply(drafted, event, 1, actor, CellRulesTest::blockers);
        return CellRules.byMachine(drafted, outcome, opened);
    }

    @Test
    void aMachinesTextIsMovedOnByWhoOpenedIt() {
        Cell drafted = after(Cell.EMPTY, new Pencil(RAMPE), 1, CONTRIBUTOR);
        Refused refused = new Refused(Reason.MACHINE_TEXT);
        assertThat(byMachine(drafted, new PutForward(RAMPE, 1), CONTRIBUTOR, false))
                .isEqualTo(refused);
        assertThat(byMachine(drafted, new PutForward(RAMPE, 1), OWN_SETTLER, false))
                .as("that would settle it")
                .isEqualTo(refused);
        assertThat(byMachine(drafted, new PutForward(RAMPE, 1), CONTRIBUTOR, true))
                .isInstanceOf(Changed.class);
        assertThat(byMachine(drafted, new PutForward(RAMPE, 1), OWN_SETTLER, true))
                .isInstanceOf(Changed.class);
        assertThat(byMachine(drafted, new PutForward(KLAPPE, 1), CONTRIBUTOR, false))
                .as("a text of one's own")
                .isInstanceOf(Changed.class);
        assertThat(byMachine(drafted, new Clear(), REVIEWER, false)).isInstanceOf(Changed.class);
        assertThat(byMachine(drafted, new PutForward(RAMPE, 1), READER, false))
                .as("refused for another reason")
                .isEqualTo(new Refused(Reason.NO_RIGHT_TO_OFFER));
        Cell offered = after(drafted, new PutForward(RAMPE, 1), 1, CONTRIBUTOR);
        assertThat(byMachine(offered, new Settle(1, false), REVIEWER, false))
                .as("an offer of the same text is settled by whoever answers it by itself")
                .isEqualTo(refused);
        assertThat(byMachine(offered, new Settle(1, false), REVIEWER, true)).isInstanceOf(Changed.class);
        assertThat(byMachine(Cell.EMPTY, new PutForward(RAMPE, 1), CONTRIBUTOR, false))
                .isInstanceOf(Changed.class);
    }

    private Cell settled() {
        return after(offered(), new Settle(10, false), 1, REVIEWER);
    }

    static final Finding MISSING = new Finding(
            Kind.PLACEHOLDER,
            "placeholder-missing",
            Finding.Severity.BLOCKER,
            "",
            "Missing: %d.",
            Map.of(),
            -1,
            -1,
            null);

    /** A text of one sign lost what it should hold. */
    private static List<Finding> blockers(Text text) {
        return text.main().length() == 1 ? List.of(MISSING) : List.of();
    }

    private Cell ownOffer() {
        return after(Cell.EMPTY, new PutForward(RAMPE, 10), 1, REVIEWER);
    }

    private Cell cleared() {
        return after(settled(), new Clear(), 1, REVIEWER);
    }

    private static final Text LOST = Text.plain("x");

    @Test
    void nobodyPutsTheirOwnTextInForceByWhateverWay() {
        assertThat(refused(ownOffer(), new Settle(10, false), REVIEWER)).isEqualTo(Reason.OWN_OFFER);
        assertThat(refused(ownOffer(), new Amend(10, RAMPE), REVIEWER))
                .as("amended with the same text")
                .isEqualTo(Reason.OWN_OFFER);
        assertThat(refused(ownOffer(), new Amend(10, KLAPPE), REVIEWER))
                .as("amended with another of one's own")
                .isEqualTo(Reason.OWN_OFFER);
        Cell two = after(ownOffer(), new PutForward(KLAPPE, 11), 1, CONTRIBUTOR);
        assertThat(refused(two, new Amend(11, RAMPE), REVIEWER))
                .as("somebody else's amended into one's own")
                .isEqualTo(Reason.OWN_OFFER);
        assertThat(refused(cleared(), new PutBack(RAMPE, Standing.SETTLED, 1, 3), REVIEWER))
                .as("put back")
                .isEqualTo(Reason.OWN_OFFER);
        CellWas was = CellWas.between(settled(), cleared());
        assertThat(refused(cleared(), new Undo(cleared().version(), was, 3), REVIEWER))
                .as("brought back by undo")
                .isEqualTo(Reason.OWN_OFFER);
        assertThat(after(ownOffer(), new Settle(10, false), 1, OWN_SETTLER).state(1))
                .as("by another")
                .isEqualTo(CellState.SETTLED);
        assertThat(after(cleared(), new Undo(cleared().version(), was, 0), 1, REVIEWER)
                        .state(1))
                .as("what two stand behind comes back")
                .isEqualTo(CellState.SETTLED);
    }

    @Test
    void aPencilledLineOfOnesOwnIsPutBack() {
        assertThat(after(cleared(), new PutBack(RAMPE, Standing.PENCILLED, 1, 3), 1, REVIEWER)
                        .state(1))
                .isEqualTo(CellState.PENCILLED);
    }

    @Test
    void whatDoesNotPassTheChecksComesIntoForceByNoWay() {
        assertThat(refused(Cell.EMPTY, new PutForward(LOST, 10), OWN_SETTLER)).isEqualTo(Reason.BLOCKED);
        assertThat(refused(offered(), new Amend(10, LOST), REVIEWER)).isEqualTo(Reason.BLOCKED);
        Cell offered = after(Cell.EMPTY, new PutForward(LOST, 10), 1, CONTRIBUTOR);
        assertThat(refused(offered, new Settle(10, false), REVIEWER)).isEqualTo(Reason.BLOCKED);
        assertThat(refused(offered, new SettleByRule(10), CONTRIBUTOR)).isEqualTo(Reason.BLOCKED);
        Changed back = (Changed) CellRules.apply(
                cleared(), new PutBack(LOST, Standing.SETTLED, 1, 0), 1, REVIEWER, CellRulesTest::blockers);
        assertThat(back.cell().state(1)).isEqualTo(CellState.PENCILLED);
        assertThat(back.lowered()).containsExactly(MISSING);
        CellWas was = new CellWas(Optional.of(LOST), Standing.SETTLED, 1, 2, List.of());
        Changed undone = (Changed)
                CellRules.apply(cleared(), new Undo(cleared().version(), was, 0), 1, REVIEWER, CellRulesTest::blockers);
        assertThat(undone.cell().state(1)).isEqualTo(CellState.PENCILLED);
        assertThat(undone.lowered()).isNotEmpty();
    }

    @Test
    void aTextThatIsInForceStaysWhateverTheChecksSay() {
        Cell stood = new Cell(Optional.of(LOST), Standing.SETTLED, 1, 1, 1, List.of());
        assertThat(after(stood, new StillHolds(99), 2, REVIEWER).state(2)).isEqualTo(CellState.SETTLED);
    }

    @Test
    void anEmptyCellIsUntranslated() {
        assertThat(Cell.EMPTY.state(1)).isEqualTo(CellState.UNTRANSLATED);
    }

    @Test
    void aDraftIsPencilledAndAnOfferLeavesTheTextUntouched() {
        Cell pencilled = after(Cell.EMPTY, new Pencil(KLAPPE), 1, MACHINE);
        assertThat(pencilled.state(1)).isEqualTo(CellState.PENCILLED);
        Cell offered = after(pencilled, new PutForward(RAMPE, 10), 1, CONTRIBUTOR);
        assertThat(offered.state(1)).isEqualTo(CellState.OFFERED);
        assertThat(offered.text()).contains(KLAPPE);
    }

    @Test
    void settlingPutsTheOfferInForceAndSetsOthersAside() {
        Cell two = after(offered(), new PutForward(KLAPPE, 11), 1, OTHER_CONTRIBUTOR);
        Cell settled = after(two, new Settle(11, false), 1, REVIEWER);
        assertThat(settled.text()).contains(KLAPPE);
        assertThat(settled.state(1)).isEqualTo(CellState.SETTLED);
        assertThat(settled.offers()).extracting(Offer::standing).containsExactly(Answer.SET_ASIDE, Answer.SETTLED);
    }

    @Test
    void aNewerOfferOfTheSameAuthorSetsTheOlderAside() {
        Cell again = after(offered(), new PutForward(KLAPPE, 11), 1, CONTRIBUTOR);
        assertThat(again.offers()).extracting(Offer::standing).containsExactly(Answer.SET_ASIDE, Answer.OPEN);
    }

    @Test
    void fourEyesHoldUnlessTheLanguageAllowsOwnTexts() {
        Cell own = after(Cell.EMPTY, new PutForward(RAMPE, 10), 1, REVIEWER);
        assertThat(own.state(1)).isEqualTo(CellState.OFFERED);
        assertThat(refused(own, new Settle(10, false), REVIEWER)).isEqualTo(Reason.OWN_OFFER);
        assertThat(after(Cell.EMPTY, new CellEvent.MakeOffer(RAMPE, 10), 1, OWN_SETTLER)
                        .state(1))
                .as("only offered, if one says so")
                .isEqualTo(CellState.OFFERED);
        assertThat(refused(settled(), new CellEvent.MakeOffer(RAMPE, 11), OWN_SETTLER))
                .isEqualTo(Reason.SAME_AS_IN_FORCE);
        assertThat(refused(Cell.EMPTY, new CellEvent.MakeOffer(RAMPE, 10), READER))
                .isEqualTo(Reason.NO_RIGHT_TO_OFFER);
        assertThat(after(Cell.EMPTY, new PutForward(RAMPE, 10), 1, OWN_SETTLER).state(1))
                .isEqualTo(CellState.SETTLED);
    }

    @Test
    void returningNeedsAReasonAndShowsUntilSomethingNewerComes() {
        Cell returned = after(offered(), new Return(10, "too long"), 1, REVIEWER);
        assertThat(returned.state(1)).isEqualTo(CellState.RETURNED);
        assertThat(refused(offered(), new Return(10, "  "), REVIEWER)).isEqualTo(Reason.REASON_MISSING);
        assertThat(after(returned, new PutForward(KLAPPE, 11), 1, CONTRIBUTOR).state(1))
                .isEqualTo(CellState.OFFERED);
        assertThat(after(returned, new Pencil(KLAPPE), 1, CONTRIBUTOR).state(1)).isEqualTo(CellState.PENCILLED);
    }

    @Test
    void amendingKeepsTheOfferOnRecord() {
        Cell amended = after(offered(), new Amend(10, KLAPPE), 2, REVIEWER);
        assertThat(amended.text()).contains(KLAPPE);
        assertThat(amended.basedOn()).isEqualTo(2);
        assertThat(amended.offers().get(0).standing()).isEqualTo(Answer.AMENDED);
        assertThat(amended.offers().get(0).text()).isEqualTo(RAMPE);
    }

    @Test
    void aTextMadeForAnOlderMeaningIsStaleUntilItIsSaidToHold() {
        assertThat(settled().state(2)).isEqualTo(CellState.STALE);
        assertThat(after(settled(), new StillHolds(99), 2, REVIEWER).state(2)).isEqualTo(CellState.SETTLED);
        Cell late = after(offered(), new Settle(10, false), 2, REVIEWER);
        assertThat(late.state(2)).isEqualTo(CellState.STALE);
        assertThat(after(offered(), new Settle(10, true), 2, REVIEWER).state(2)).isEqualTo(CellState.SETTLED);
    }

    @Test
    void anOfferEqualToTheTextInForceIsRefusedUnlessTheSourceMovedOn() {
        assertThat(refused(settled(), new PutForward(RAMPE, 11), CONTRIBUTOR)).isEqualTo(Reason.SAME_AS_IN_FORCE);
        assertThat(after(settled(), new PutForward(RAMPE, 11), 2, CONTRIBUTOR).state(2))
                .isEqualTo(CellState.OFFERED);
    }

    @Test
    void nobodyWritesOverWhatIsSettled() {
        assertThat(refused(settled(), new Pencil(KLAPPE), MACHINE)).isEqualTo(Reason.SETTLED_IS_NOT_PENCILLED_OVER);
        assertThat(refused(settled(), new PutBack(KLAPPE, Standing.PENCILLED, 1, 0), CONTRIBUTOR))
                .isEqualTo(Reason.NO_RIGHT_TO_SETTLE);
    }

    @Test
    void rightsAreAsked() {
        assertThat(refused(Cell.EMPTY, new PutForward(RAMPE, 10), READER)).isEqualTo(Reason.NO_RIGHT_TO_OFFER);
        assertThat(refused(Cell.EMPTY, new Pencil(RAMPE), READER)).isEqualTo(Reason.NO_RIGHT_TO_OFFER);
        assertThat(refused(offered(), new Settle(10, false), CONTRIBUTOR)).isEqualTo(Reason.NO_RIGHT_TO_SETTLE);
        assertThat(refused(settled(), new Clear(), CONTRIBUTOR)).isEqualTo(Reason.NO_RIGHT_TO_SETTLE);
        assertThat(refused(offered(), new Withdraw(10), OTHER_CONTRIBUTOR)).isEqualTo(Reason.NOT_YOURS);
        assertThat(refused(settled(), new Withdraw(10), CONTRIBUTOR)).isEqualTo(Reason.OFFER_NOT_OPEN);
        assertThat(refused(Cell.EMPTY, new StillHolds(99), REVIEWER)).isEqualTo(Reason.NOTHING_IN_FORCE);
    }

    @Test
    void anyLineCanBePutBack() {
        Cell cleared = after(settled(), new Clear(), 1, REVIEWER);
        assertThat(cleared.state(1)).isEqualTo(CellState.UNTRANSLATED);
        Cell back = after(cleared, new PutBack(RAMPE, Standing.SETTLED, 1, 1), 1, REVIEWER);
        assertThat(back.state(1)).isEqualTo(CellState.SETTLED);
    }

    /** Random histories: the invariants of record.md hold after every step. */
    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3, 5, 8, 13, 21, 34})
    void invariantsHoldOverRandomHistories(long seed) {
        Random random = new Random(seed);
        List<Actor> actors = List.of(CONTRIBUTOR, OTHER_CONTRIBUTOR, REVIEWER, OWN_SETTLER, READER, MACHINE);
        Cell cell = Cell.EMPTY;
        int revision = 1;
        int meaning = 1;
        Set<CellState> seen = new HashSet<>();
        for (int step = 0; step < 4000; step++) {
            if (random.nextInt(12) == 0) {
                revision++;
                meaning = random.nextBoolean() ? revision : meaning;
            }
            Actor actor = actors.get(random.nextInt(actors.size()));
            CellEvent event = randomEvent(random, cell, 100 + step, revision);
            Outcome outcome = CellRules.apply(cell, event, revision, actor, CellRulesTest::blockers);
            if (outcome instanceof Changed changed) {
                Cell next = changed.cell();
                assertThat(next.version()).isEqualTo(cell.version() + 1);
                boolean settledLost =
                        cell.standing() == Standing.SETTLED && !next.text().equals(cell.text());
                if (settledLost) {
                    assertThat(event)
                            .isInstanceOfAny(Settle.class, Amend.class, Clear.class, PutBack.class, PutForward.class);
                    assertThat(actor.reviews()).isTrue();
                }
                if (event instanceof Settle settle && !actor.settlesOwn()) {
                    assertThat(cell.openOffer(settle.offerId()).orElseThrow().author())
                            .isNotEqualTo(actor.person());
                }
                assertThat(next.offers())
                        .hasSizeGreaterThanOrEqualTo(cell.offers().size());
                assertThat(next.offers().stream().filter(Offer::open).map(Offer::author))
                        .doesNotHaveDuplicates();
                cell = trimmed(next);
            }
            CellState state = cell.state(meaning);
            seen.add(state);
            boolean answeredFor = state != CellState.OFFERED && state != CellState.RETURNED;
            if (answeredFor && cell.text().isPresent()) {
                assertThat(state == CellState.STALE).isEqualTo(cell.basedOn() < meaning);
            }
        }
        assertThat(seen).containsExactlyInAnyOrder(CellState.values());
    }

    /** Keeps the last few offers so that a long history stays quick; versions and text are as they were. */
    private static Cell trimmed(Cell cell) {
        List<Offer> offers = new ArrayList<>(cell.offers());
        while (offers.size() > 6 && !offers.get(0).open()) {
            offers.remove(0);
        }
        return new Cell(cell.text(), cell.standing(), cell.basedOn(), cell.textAt(), cell.version(), offers);
    }

    @Test
    void aRuleSettlesOnesOwnNewOfferOnly() {
        Cell settled = after(offered(), new SettleByRule(10), 1, CONTRIBUTOR);
        assertThat(settled.state(1)).isEqualTo(CellState.SETTLED);
        assertThat(settled.text()).contains(RAMPE);
        assertThat(refused(offered(), new SettleByRule(10), OTHER_CONTRIBUTOR)).isEqualTo(Reason.NOT_YOURS);
        assertThat(refused(settled, new SettleByRule(10), CONTRIBUTOR)).isEqualTo(Reason.OFFER_NOT_OPEN);
    }

    @Test
    void aRuleTrustsWhoseLastAnswersWereAllSettled() {
        StandingRule rule = new StandingRule(3);
        assertThat(rule.trusts(List.of(Answer.SETTLED, Answer.SETTLED, Answer.SETTLED)))
                .isTrue();
        assertThat(rule.trusts(List.of(Answer.SETTLED, Answer.SETTLED))).isFalse();
        assertThat(rule.trusts(
                        List.of(Answer.SETTLED, Answer.SETTLED, Answer.SETTLED, Answer.RETURNED, Answer.AMENDED)))
                .as("older answers are forgiven")
                .isTrue();
        assertThat(rule.trusts(List.of(Answer.SETTLED, Answer.AMENDED, Answer.SETTLED, Answer.SETTLED)))
                .isFalse();
        assertThat(rule.trusts(List.of(Answer.RETURNED, Answer.SETTLED, Answer.SETTLED, Answer.SETTLED)))
                .isFalse();
        assertThat(rule.trusts(
                        List.of(Answer.SETTLED, Answer.SET_ASIDE, Answer.WITHDRAWN, Answer.SETTLED, Answer.SETTLED)))
                .isTrue();
    }

    @Test
    void aRuleLeavesChoicesToReviewers() {
        assertThat(StandingRule.leavesNoChoice(offered(), 1)).isTrue();
        Cell two = after(offered(), new PutForward(KLAPPE, 11), 1, OTHER_CONTRIBUTOR);
        assertThat(StandingRule.leavesNoChoice(two, 1)).as("two offers").isFalse();
        Cell beside = after(settled(), new PutForward(KLAPPE, 11), 1, OTHER_CONTRIBUTOR);
        assertThat(StandingRule.leavesNoChoice(beside, 1))
                .as("over a settled text")
                .isFalse();
        assertThat(StandingRule.leavesNoChoice(beside, 2))
                .as("over a stale one")
                .isTrue();
    }

    private static CellEvent randomEvent(Random random, Cell cell, long newOffer, int revision) {
        Text text = Text.plain("text " + random.nextInt(5));
        Optional<Offer> some = cell.offers().isEmpty()
                ? Optional.empty()
                : Optional.of(cell.offers().get(random.nextInt(cell.offers().size())));
        long offer = some.map(Offer::id).orElse(1L);
        return switch (random.nextInt(9)) {
            case 0 -> new Pencil(text);
            case 1 -> new PutForward(text, newOffer);
            case 2 -> new CellEvent.MakeOffer(text, newOffer);
            case 3 -> new Settle(offer, random.nextBoolean());
            case 4 -> new Amend(offer, text);
            case 5 -> new Return(offer, random.nextInt(4) == 0 ? "" : "reason");
            case 6 -> new Withdraw(offer);
            case 7 -> random.nextBoolean() ? new StillHolds(99) : new Clear();
            default ->
                new PutBack(
                        text,
                        random.nextBoolean() ? Standing.SETTLED : Standing.PENCILLED,
                        Math.max(1, revision - random.nextInt(2)),
                        0);
        };
    }
}
