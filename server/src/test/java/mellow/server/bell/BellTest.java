package mellow.server.bell;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Clock;
import java.time.Instant;
import java.util.List;
import mellow.core.language.LanguageTag;
import mellow.core.merge.Arrival;
import mellow.server.bell.BellService.Kind;
import mellow.server.bell.BellService.Notice;
import mellow.server.cell.CellChange;
import mellow.server.cell.CellChange.Action;
import mellow.server.people.Level;
import mellow.server.people.PeopleService;
import mellow.server.question.QuestionService;
import mellow.server.support.ServerTest;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

class BellTest extends ServerTest {

    @Autowired
    private BellService bell;

    @Autowired
    private QuestionService questions;

    @Autowired
    private PeopleService people;

    private long mara;
    private long oskar;
    private long lina;

    @BeforeEach
    void people() {
        mara = ledger.coordinator("mara");
        oskar = ledger.person("oskar", "de", Level.REVIEWER);
        lina = ledger.person("lina", "de", Level.CONTRIBUTOR);
        people.give(lina, new LanguageTag("fi"), Level.CONTRIBUTOR);
        ledger.takeIn(mara, "Ramp", "key,en,de,fi\nup,Ramp up,,\ndown,Ramp down,,\n", Arrival.SETTLED);
    }

    private long offer(String key, String language, int version) {
        ledger.change(lina, key, language, CellChange.text(Action.PUT_FORWARD, version, "Text " + version));
        return ledger.ask(Long.class, "select max(id) from offer");
    }

    private List<String> told(long person) {
        return bell.notices(person).stream()
                .map(one -> one.kind() + (one.language() == null ? "" : " " + one.language()) + " " + one.n())
                .toList();
    }

    @Test
    void aProductThatDidNotGoOutByItselfIsToldToCoordinatorsUntilItDoes() {
        ledger.run("insert into product (name, kind, slug, created_at) values ('Panel', 'panel', 'panel', now())");
        deliveryRun("failed", "by itself", "Ramp has an entry without a source text.");
        assertThat(bell.notices(mara))
                .filteredOn(one -> one.kind() == Kind.NOT_DELIVERED)
                .singleElement()
                .satisfies(one -> {
                    assertThat(one.key()).isEqualTo("Panel");
                    assertThat(one.table()).isEqualTo("panel");
                    assertThat(one.said()).isEqualTo("Ramp has an entry without a source text.");
                    assertThat(one.fresh()).isTrue();
                });
        assertThat(told(oskar)).isEmpty();
        deliveryRun("failed", "", "Who asks by hand sees it on the screen.");
        assertThat(told(mara)).doesNotContain("NOT_DELIVERED 1");
        deliveryRun("lost", "by itself", "The server stopped.");
        assertThat(told(mara)).contains("NOT_DELIVERED 1");
        deliveryRun("done", "by itself", "");
        assertThat(told(mara)).doesNotContain("NOT_DELIVERED 1");
    }

    private void deliveryRun(String status, String arguments, String message) {
        ledger.run(
                "insert into run (kind, subject, person_id, arguments, status, server, started_at, seen_at, ended_at, message) select 'deliver', p.id, "
                        + mara + ", '" + arguments + "', '" + status + "', gen_random_uuid(), now(), now(), now(), '"
                        + message
                        + "' from product p");
    }

    @Test
    void offersWaitForReviewersOfTheirLanguage() {
        assertThat(told(oskar)).isEmpty();
        offer("up", "de", 0);
        offer("down", "de", 0);
        offer("up", "fi", 0);
        assertThat(told(oskar)).containsExactly("WAITING de 2");
        assertThat(told(mara)).containsExactlyInAnyOrder("WAITING de 2", "WAITING fi 1");
        assertThat(told(lina)).as("one's own wait for others").isEmpty();
    }

    @Test
    void whatCameBackIsToldUntilSomethingNewerIsOffered() {
        long up = offer("up", "de", 0);
        long down = offer("down", "de", 0);
        ledger.change(oskar, "up", "de", CellChange.answer(Action.RETURN, 1, up, "Why"));
        ledger.change(oskar, "down", "de", CellChange.answer(Action.SETTLE, 1, down, null));
        assertThat(told(lina)).containsExactly("SETTLED de 1", "CAME_BACK de 1");
        offer("up", "de", 2);
        assertThat(told(lina)).containsExactly("SETTLED de 1");
    }

    @Test
    void answersReachWhoAskedAndQuestionsReachCoordinators() {
        long question = questions.ask(lina, ledger.entry("up"), "Which ramp?");
        assertThat(told(mara)).containsExactly("ASKED 1");
        assertThat(told(oskar)).isEmpty();
        questions.answer(mara, question, "The stern ramp.");
        assertThat(told(mara)).isEmpty();
        Notice answered = bell.notices(lina).get(0);
        assertThat(answered.kind()).isEqualTo(Kind.ANSWERED);
        assertThat(answered.key()).isEqualTo("up");
        assertThat(answered.table()).isEqualTo("ramp");
    }

    @Test
    void whatWasSeenIsNoLongerFreshAndWhatComesLaterIs() {
        offer("up", "de", 0);
        Notice first = bell.notices(oskar).get(0);
        assertThat(first.fresh()).isTrue();
        bell.seen(oskar, first.at());
        assertThat(bell.notices(oskar).get(0).fresh()).isFalse();
        offer("down", "de", 0);
        assertThat(bell.notices(oskar).get(0).fresh()).isTrue();
        // A clock that is ahead must not hide what is still to come.
        bell.seen(oskar, Instant.now(Clock.systemUTC()).plusSeconds(3_600));
        offer("up", "de", 1);
        assertThat(bell.notices(oskar).get(0).fresh()).isTrue();
    }
}
