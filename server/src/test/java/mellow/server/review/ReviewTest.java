package mellow.server.review;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.concurrent.Callable;
import java.util.concurrent.CyclicBarrier;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.stream.Stream;
import mellow.core.language.LanguageTag;
import mellow.core.merge.Arrival;
import mellow.server.cell.CellChange;
import mellow.server.cell.CellChange.Action;
import mellow.server.check.CheckService.FindingReply;
import mellow.server.common.Refusal;
import mellow.server.entry.EntryService;
import mellow.server.people.Level;
import mellow.server.review.ReviewService.Contributor;
import mellow.server.review.ReviewService.ReviewReply;
import mellow.server.support.ServerTest;
import mellow.server.wordbook.WordbookService;
import mellow.server.wordbook.WordbookService.TermText;
import org.assertj.core.groups.Tuple;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.simple.JdbcClient;

class ReviewTest extends ServerTest {

    private static final LanguageTag GERMAN = new LanguageTag("de");

    @Autowired
    private WordbookService wordbook;

    @Autowired
    private ReviewService review;

    @Autowired
    private EntryService entries;

    @Autowired
    private JdbcClient jdbc;

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
        return look(me, person, ReviewQuery.Order.OLDEST, tables).strips();
    }

    private Strip strip(String text) {
        return strips(oskar, 0).stream()
                .filter(strip -> strip.text().equals(text))
                .findFirst()
                .orElseThrow();
    }

    private List<String> texts(ReviewQuery query) {
        return review.waiting(oskar, query, 0).strips().stream()
                .map(Strip::text)
                .toList();
    }

    private ReviewReply look(long me, long person, ReviewQuery.Order order, String... tables) {
        ReviewQuery query = review.query(GERMAN, List.of(tables), person, 0, ReviewQuery.Checked.ALL, order);
        return review.waiting(me, query, 0);
    }

    @Test
    void offersOfOthersWaitOldestFirstWithWhatTheyAreJudgedBy() {
        assertThat(strips(oskar, 0))
                .extracting(Strip::text)
                .as("the oldest first, offers for one cell together")
                .containsExactly("Klappe oben", "Rampe offen", "Last", "Deck");
        assertThat(strips(oskar, hanne))
                .as("one person's offers, with the others for the same cells")
                .extracting(Strip::text)
                .containsExactly("Klappe oben", "Rampe offen", "Deck");
        assertThat(strips(oskar, 0, "deck")).extracting(Strip::key).containsExactly("deck");
        assertThat(strips(lina, 0))
                .as("one's own are left out")
                .extracting(Strip::author)
                .doesNotContain("lina");
        Strip up = strips(oskar, 0).get(0);
        assertThat(up.inForce()).isEqualTo("Rampe oben");
        assertThat(up.offers()).isEqualTo(2);
        assertThat(up.blockers()).isEmpty();
        assertThat(strip("Last").blockers())
                .extracting(FindingReply::sentence)
                .containsExactly("The placeholder {n} is missing.");
        assertThat(look(oskar, 0, ReviewQuery.Order.NEWEST).strips().get(0).key())
                .as("newest first")
                .isEqualTo("deck");
    }

    @Test
    void offersAreFoundByWhatTheChecksSayOfThemAndByTheirAge() {
        offer(hanne, "short", 0, "Anhalten");
        assertThat(texts(checked(ReviewQuery.Checked.BLOCKED))).containsExactly("Last", "Anhalten");
        assertThat(texts(checked(ReviewQuery.Checked.SOUND))).containsExactly("Klappe oben", "Rampe offen", "Deck");
        assertThat(texts(checked(ReviewQuery.Checked.WARNED))).isEmpty();
        offer(hanne, "deck", 1, "Deck ");
        assertThat(texts(checked(ReviewQuery.Checked.WARNED))).containsExactly("Deck ");

        jdbc.sql("update offer set offered_time = offered_time - interval '8 days' where text = 'Last'")
                .update();
        assertThat(texts(review.query(GERMAN, List.of(), 0, 7, ReviewQuery.Checked.ALL, ReviewQuery.Order.OLDEST)))
                .containsExactly("Last");
    }

    private ReviewQuery checked(ReviewQuery.Checked checks) {
        return review.query(GERMAN, List.of(), 0, 0, checks, ReviewQuery.Order.OLDEST);
    }

    @Test
    void anOfferCarriesWhatItsAuthorSaysAndWhereItsTextIsUsed() {
        CellChange change = new CellChange(Action.PUT_FORWARD, 0, "Anh.", null, "No room for more.", false, null);
        ledger.change(hanne, "short", "de", change);
        assertThat(strip("Anh.").said()).isEqualTo("No room for more.");
        assertThat(strip("Last").said()).isEmpty();
        assertThat(strip("Last").usedBy()).isEmpty();
    }

    @Test
    void pagesFollowEachOtherWithoutGapsAndKeepOffersForOneCellTogether() {
        StringBuilder csv = new StringBuilder("key,en,de\n");
        for (int i = 0; i < 130; i++) {
            csv.append("k").append(i).append(",Text ").append(i).append(",\n");
        }
        ledger.takeIn(mara, "Many", csv.toString(), Arrival.SETTLED);
        for (int i = 0; i < 130; i++) {
            offer(lina, "k" + i, 0, "Wort " + i);
            if (i % 10 == 0) {
                offer(hanne, "k" + i, 1, "Anders " + i);
            }
        }
        ReviewQuery query =
                review.query(GERMAN, List.of("many"), 0, 0, ReviewQuery.Checked.ALL, ReviewQuery.Order.TABLE);
        ReviewReply first = review.waiting(oskar, query, 0);
        assertThat(first.matching()).isEqualTo(143);
        assertThat(first.next()).isEqualTo(ReviewService.PAGE);
        ReviewReply second = review.waiting(oskar, query, ReviewService.PAGE);
        assertThat(second.next()).isNull();
        List<Long> all = Stream.concat(first.strips().stream(), second.strips().stream())
                .map(Strip::offer)
                .distinct()
                .toList();
        assertThat(all).hasSize(143);
        assertThat(first.strips()).extracting(Strip::text).startsWith("Wort 0", "Anders 0", "Wort 1");
    }

    @Test
    void anOfferForAnOlderSourceShowsWhatItWasMadeFor() {
        TreeMap<String, String> source = new TreeMap<>();
        source.put("other", "Ramp fully up");
        int version = ledger.ask(Integer.class, "select version from entry where key = 'up'");
        entries.rewrite(mara, ledger.entry("up"), version, source, true);
        assertThat(strip("Klappe oben").sourceThen()).isEqualTo("Ramp up");
        assertThat(strip("Last").sourceThen()).isNull();
    }

    @Test
    void theWordbooksWordsToAvoidAreSomethingToMind() {
        assertThat(strip("Klappe oben").warnings()).isEmpty();
        wordbook.add(mara, "en", "ramp", "", Map.of("de", new TermText("Rampe", List.of("Klappe"))));
        assertThat(strip("Klappe oben").warnings())
                .extracting(FindingReply::sentence)
                .containsExactly("\u201cKlappe\u201d is to be avoided; say \u201cRampe\u201d.");
        assertThat(matching(ReviewQuery.Checked.WARNED)).isEqualTo(1);
        assertThat(matching(ReviewQuery.Checked.SOUND)).isEqualTo(2);
        assertThat(matching(ReviewQuery.Checked.BLOCKED)).isEqualTo(1);
    }

    private int matching(ReviewQuery.Checked checks) {
        ReviewQuery query = review.query(GERMAN, List.of(), 0, 0, checks, ReviewQuery.Order.OLDEST);
        return review.waiting(oskar, query, 0).matching();
    }

    @Test
    void contributorsAreToldWithWhatBecameOfTheirOffers() {
        long offer = strip("Klappe oben").offer();
        ledger.change(oskar, "up", "de", CellChange.answer(Action.RETURN, 3, offer, "Say Rampe."));
        long other = strip("Deck").offer();
        ledger.change(oskar, "deck", "de", CellChange.answer(Action.SETTLE, 1, other, null));
        assertThat(look(oskar, 0, ReviewQuery.Order.OLDEST).contributors())
                .extracting(Contributor::name, Contributor::waiting, Contributor::settled, Contributor::returned)
                .containsExactlyInAnyOrder(Tuple.tuple("LINA", 1, 0, 1), Tuple.tuple("HANNE", 1, 1, 0));
    }

    @Test
    void nothingIsSettledPastABlocker() {
        long offer = strip("Last").offer();
        assertThatThrownBy(() -> ledger.change(oskar, "load", "de", CellChange.answer(Action.SETTLE, 1, offer, null)))
                .isInstanceOf(Refusal.class)
                .hasMessage("This cannot be settled. The placeholder {n} is missing.");
        CellChange amended = new CellChange(Action.AMEND, 1, "Die Last", offer, null, false, null);
        assertThatThrownBy(() -> ledger.change(oskar, "load", "de", amended))
                .hasMessageContaining("The placeholder {n} is missing.");
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
