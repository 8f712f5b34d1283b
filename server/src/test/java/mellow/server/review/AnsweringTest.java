package mellow.server.review;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Duration;
import java.util.List;
import mellow.core.language.LanguageTag;
import mellow.core.merge.Arrival;
import mellow.server.cell.CellChange;
import mellow.server.cell.CellChange.Action;
import mellow.server.cell.CellService;
import mellow.server.common.Refusal;
import mellow.server.people.Level;
import mellow.server.review.AnsweringService.Answering;
import mellow.server.run.RunService;
import mellow.server.support.ServerTest;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

class AnsweringTest extends ServerTest {

    private static final LanguageTag GERMAN = new LanguageTag("de");
    private static final Duration LONG = Duration.ofSeconds(60);

    @Autowired
    private ReviewService review;

    @Autowired
    private AnsweringService answering;

    @Autowired
    private CellService cells;

    @Autowired
    private RunService runs;

    private long oskar;
    private long lina;
    private long hanne;

    @BeforeEach
    void offers() {
        long mara = ledger.coordinator("mara");
        oskar = ledger.person("oskar", "de", Level.REVIEWER);
        lina = ledger.person("lina", "de", Level.CONTRIBUTOR);
        hanne = ledger.person("hanne", "de", Level.CONTRIBUTOR);
        ledger.takeIn(
                mara,
                "Ramp",
                "key,en,de\nup,Ramp up,\nload,Load {n},\nboth,Both,\nlate,Late,\nstop,Stop,Halt\n",
                Arrival.SETTLED);
        offer(lina, "up", 0, "Rampe oben");
        offer(lina, "load", 0, "Last");
        offer(lina, "both", 0, "Beide");
        offer(hanne, "both", 1, "Alle beide");
        offer(lina, "stop", 1, "Stopp");
    }

    private void offer(long person, String key, int version, String text) {
        ledger.change(person, key, "de", CellChange.text(Action.PUT_FORWARD, version, text));
    }

    private ReviewQuery all(long person) {
        return review.query(GERMAN, List.of(), person, 0, ReviewQuery.Checked.ALL, ReviewQuery.Order.OLDEST);
    }

    private Answering answer(Action action, @Nullable String reason, long person, long upTo) {
        long change = answering.start(oskar, all(person), action, reason, upTo);
        runs.await("answering", change, LONG);
        return answering.state(oskar, change);
    }

    @Test
    void allThatMatchAreSettledAsOneChangeAndTakenBackAsOne() {
        long seen = review.waiting(oskar, all(0), 0).newest();
        offer(lina, "late", 0, "Zu spät");
        Answering done = answer(Action.SETTLE, null, 0, seen);
        assertThat(done.status()).isEqualTo("done");
        assertThat(done.changed()).isEqualTo(2);
        assertThat(done.refused()).isEqualTo(2);
        assertThat(done.told())
                .extracting(one -> one.key() + ": " + one.code())
                .containsExactlyInAnyOrder("load: blocked", "both: offer-missing");
        assertThat(ledger.cell("up", "de")).isEqualTo("settled Rampe oben");
        assertThat(ledger.cell("stop", "de")).isEqualTo("settled Stopp");
        assertThat(ledger.cell("late", "de")).as("offered after one looked").isEqualTo("offered");
        assertThat(ledger.cell("both", "de")).as("a choice").isEqualTo("offered");

        cells.undo(oskar, done.change());
        assertThat(ledger.cell("up", "de")).isEqualTo("offered");
        assertThat(ledger.cell("stop", "de")).isEqualTo("offered Halt");
        assertThat(review.waiting(oskar, all(0), 0).matching()).isEqualTo(6);
    }

    @Test
    void oneContributorsOffersAreReturnedWithOneReasonAndOthersStay() {
        Answering done = answer(Action.RETURN, "Use the wordbook.", lina, Long.MAX_VALUE);
        assertThat(done.changed()).isEqualTo(3);
        assertThat(ledger.cell("up", "de")).isEqualTo("returned");
        assertThat(ledger.cell("both", "de")).isEqualTo("offered");
        assertThat(ledger.ask(Integer.class, "select count(*)::int from offer where reason = 'Use the wordbook.'"))
                .isEqualTo(3);
    }

    @Test
    void onlyReviewersAnswerAndAReturnNeedsAReason() {
        assertThatThrownBy(() -> answering.start(lina, all(0), Action.SETTLE, null, Long.MAX_VALUE))
                .isInstanceOf(Refusal.class)
                .hasMessage("Only a reviewer of this language can do that.");
        assertThatThrownBy(() -> answering.start(oskar, all(0), Action.RETURN, " ", Long.MAX_VALUE))
                .hasMessageContaining("Say why");
        assertThatThrownBy(() -> answering.start(oskar, all(0), Action.CLEAR, null, Long.MAX_VALUE))
                .hasMessageContaining("settled or returned");
    }

    @Test
    void nobodySeesTheRunsOfOthers() {
        long change = answer(Action.SETTLE, null, 0, Long.MAX_VALUE).change();
        assertThatThrownBy(() -> answering.state(lina, change)).hasMessage("There is no such work.");
        assertThatThrownBy(() -> answering.cancel(lina, change)).hasMessage("There is no such work.");
    }
}
