package mellow.server.review;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.ArrayList;
import java.util.List;
import java.util.TreeMap;
import java.util.concurrent.Callable;
import java.util.concurrent.CyclicBarrier;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import mellow.core.language.LanguageTag;
import mellow.core.merge.Arrival;
import mellow.server.cell.CellChange;
import mellow.server.cell.CellChange.Action;
import mellow.server.common.Refusal;
import mellow.server.entry.EntryService;
import mellow.server.people.Level;
import mellow.server.review.ReviewService.Contributor;
import mellow.server.review.ReviewService.Strip;
import mellow.server.support.ServerTest;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

class ReviewTest extends ServerTest {

    private static final LanguageTag GERMAN = new LanguageTag("de");

    @Autowired
    private ReviewService review;

    @Autowired
    private EntryService entries;

    private long mara;
    private long oskar;
    private long lina;
    private long hanne;

    @BeforeEach
    void offers() {
        mara = ledger.coordinator("mara");
        oskar = ledger.person("oskar", "de", Level.REVIEWER);
        lina = ledger.person("lina", "de", Level.CONTRIBUTOR);
        hanne = ledger.person("hanne", "de", Level.CONTRIBUTOR);
        ledger.takeIn(
                mara,
                "Ramp",
                "key,limit,en,de\nup,,Ramp up,Rampe oben\nload,,Load {n},\nshort,4,Stop,\n",
                Arrival.SETTLED);
        ledger.takeIn(mara, "Deck", "key,en,de\ndeck,Deck,\n", Arrival.SETTLED);
        offer(lina, "up", 1, "Klappe oben");
        offer(lina, "load", 0, "Last");
        offer(hanne, "up", 2, "Rampe offen");
        offer(hanne, "deck", 0, "Deck");
    }

    private void offer(long person, String key, int version, String text) {
        ledger.change(person, key, "de", CellChange.text(Action.PUT_FORWARD, version, text));
    }

    private List<Strip> strips(long me, long person, String... tables) {
        return review.waiting(me, GERMAN, List.of(tables), person, false).strips();
    }

    @Test
    void offersOfOthersWaitOldestFirstWithWhatTheyAreJudgedBy() {
        assertThat(strips(oskar, 0))
                .extracting(Strip::text)
                .containsExactly("Klappe oben", "Last", "Rampe offen", "Deck");
        assertThat(strips(oskar, hanne)).extracting(Strip::key).containsExactly("up", "deck");
        assertThat(strips(oskar, 0, "deck")).extracting(Strip::key).containsExactly("deck");
        assertThat(strips(lina, 0))
                .as("one's own are left out")
                .extracting(Strip::author)
                .doesNotContain("lina");
        Strip up = strips(oskar, 0).get(0);
        assertThat(up.inForce()).isEqualTo("Rampe oben");
        assertThat(up.offers()).isEqualTo(2);
        assertThat(up.blockers()).isEmpty();
        assertThat(strips(oskar, 0).get(1).blockers()).containsExactly("Missing: {n}.");
        assertThat(review.waiting(oskar, GERMAN, List.of(), 0, true)
                        .strips()
                        .get(0)
                        .key())
                .as("newest first")
                .isEqualTo("deck");
    }

    @Test
    void anOfferForAnOlderSourceShowsWhatItWasMadeFor() {
        TreeMap<String, String> source = new TreeMap<>();
        source.put("other", "Ramp fully up");
        int version = ledger.ask(Integer.class, "select version from entry where key = 'up'");
        entries.rewrite(mara, ledger.entry("up"), version, source, true);
        assertThat(strips(oskar, lina).get(0).sourceThen()).isEqualTo("Ramp up");
        assertThat(strips(oskar, lina).get(1).sourceThen()).isNull();
    }

    @Test
    void contributorsAreToldWithWhatBecameOfTheirOffers() {
        long offer = strips(oskar, lina).get(0).offer();
        ledger.change(oskar, "up", "de", CellChange.answer(Action.RETURN, 3, offer, "Say Rampe."));
        long other = strips(oskar, hanne).get(1).offer();
        ledger.change(oskar, "deck", "de", CellChange.answer(Action.SETTLE, 1, other, null));
        assertThat(review.waiting(oskar, GERMAN, List.of(), 0, false).contributors())
                .extracting(Contributor::name, Contributor::waiting, Contributor::settled, Contributor::returned)
                .containsExactlyInAnyOrder(
                        org.assertj.core.groups.Tuple.tuple("LINA", 1, 0, 1),
                        org.assertj.core.groups.Tuple.tuple("HANNE", 1, 1, 0));
    }

    @Test
    void nothingIsSettledPastABlocker() {
        long offer = strips(oskar, lina).get(1).offer();
        assertThatThrownBy(() -> ledger.change(oskar, "load", "de", CellChange.answer(Action.SETTLE, 1, offer, null)))
                .isInstanceOf(Refusal.class)
                .hasMessage("This cannot be settled. Missing: {n}.");
        CellChange amended = new CellChange(Action.AMEND, 1, "Die Last", offer, null, false, null);
        assertThatThrownBy(() -> ledger.change(oskar, "load", "de", amended)).hasMessageContaining("Missing: {n}.");
        assertThat(ledger.cell("load", "de")).isEqualTo("offered");
        ledger.change(oskar, "load", "de", new CellChange(Action.AMEND, 1, "Last {n}", offer, null, false, null));
        assertThat(ledger.cell("load", "de")).isEqualTo("settled Last {n}");
    }

    @Test
    void ofTwoReviewersWhoAnswerAtTheSameMomentOneWinsAndTheOtherIsTold() throws Exception {
        long second = ledger.person("samir", "de", Level.REVIEWER);
        for (int round = 0; round < 5; round++) {
            String key = "race" + round;
            ledger.takeIn(mara, "Race", "key,en,de\n" + key + ",Race " + round + ",\n", Arrival.SETTLED);
            offer(lina, key, 0, "Rennen");
            long offer = ledger.ask(Long.class, "select max(id) from offer");
            CyclicBarrier together = new CyclicBarrier(2);
            List<Callable<String>> both = List.of(
                    answering(together, oskar, key, CellChange.answer(Action.SETTLE, 1, offer, null)),
                    answering(together, second, key, CellChange.answer(Action.RETURN, 1, offer, "No.")));
            ExecutorService threads = Executors.newFixedThreadPool(2);
            try {
                List<String> outcomes = new ArrayList<>();
                for (Future<String> one : threads.invokeAll(both)) {
                    outcomes.add(one.get());
                }
                assertThat(outcomes).containsOnlyOnce("done").contains("cell-moved-on");
            } finally {
                threads.shutdown();
            }
            assertThat(ledger.ask(
                            Integer.class,
                            "select count(*)::int from cell_story where offer_id = " + offer
                                    + " and what <> 'offered'"))
                    .isEqualTo(1);
        }
    }

    private Callable<String> answering(CyclicBarrier together, long person, String key, CellChange answer) {
        return () -> {
            together.await();
            try {
                ledger.change(person, key, "de", answer);
                return "done";
            } catch (Refusal refused) {
                return refused.code();
            }
        };
    }
}
