package mellow.server.standing;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.List;
import java.util.Map;
import mellow.core.language.LanguageTag;
import mellow.core.merge.Arrival;
import mellow.server.cell.CellChange;
import mellow.server.cell.CellChange.Action;
import mellow.server.cell.CellChange.How;
import mellow.server.common.Refusal;
import mellow.server.people.Level;
import mellow.server.support.ServerTest;
import mellow.server.wordbook.WordbookService;
import mellow.server.wordbook.WordbookService.TermText;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

class StandingTest extends ServerTest {

    private static final LanguageTag GERMAN = new LanguageTag("de");

    @Autowired
    private WordbookService wordbook;

    @Autowired
    private StandingService standing;

    private long mara;
    private long oskar;
    private long lina;
    private int next;

    @BeforeEach
    void people() {
        mara = ledger.coordinator("mara");
        oskar = ledger.person("oskar", "de", Level.REVIEWER);
        lina = ledger.person("lina", "de", Level.CONTRIBUTOR);
        StringBuilder csv = new StringBuilder("key,en,de\n");
        for (int i = 0; i < 20; i++) {
            csv.append("k").append(i).append(",Word {n} ").append(i).append(",\n");
        }
        csv.append("old,Old,Alt\n");
        ledger.takeIn(mara, "Ramp", csv.toString(), Arrival.SETTLED);
        next = 0;
    }

    private String offer(String text) {
        String key = "k" + next++;
        ledger.change(lina, key, "de", CellChange.text(Action.PUT_FORWARD, 0, text));
        return key;
    }

    private void answer(String key, Action action) {
        long offer = ledger.ask(Long.class, "select max(id) from offer");
        String text = action == Action.AMEND ? "Anders {n}" : null;
        ledger.change(oskar, key, "de", new CellChange(action, 1, text, offer, "Why", false, null));
    }

    private void settled(int times) {
        for (int i = 0; i < times; i++) {
            answer(offer("Wort {n} " + i), Action.SETTLE);
        }
    }

    @Test
    void settlesNoTextInWhichTheWordbookFindsAWordToAvoid() {
        standing.set(mara, GERMAN, 3);
        settled(3);
        wordbook.add(mara, "en", "word", "", Map.of("de", new TermText("Wort", List.of("Vokabel"))));
        assertThat(ledger.cell(offer("Vokabel {n}"), "de")).isEqualTo("offered");
        assertThat(ledger.cell(offer("Wort {n}"), "de")).isEqualTo("settled Wort {n}");
    }

    @Test
    void isOffUnlessACoordinatorSetsIt() {
        settled(5);
        assertThat(ledger.cell(offer("Wort {n}"), "de")).isEqualTo("offered");
        assertThatThrownBy(() -> standing.set(oskar, GERMAN, 3)).isInstanceOf(Refusal.class);
        assertThatThrownBy(() -> standing.set(mara, GERMAN, 2)).hasMessageContaining("3 to 1000");
        standing.set(mara, GERMAN, 3);
        assertThat(standing.all()).singleElement().satisfies(rule -> {
            assertThat(rule.language()).isEqualTo("de");
            assertThat(rule.after()).isEqualTo(3);
            assertThat(rule.by()).isEqualTo("MARA");
        });
        standing.set(mara, GERMAN, null);
        assertThat(standing.all()).isEmpty();
    }

    @Test
    void settlesAtOnceAfterSoManyInARowAndTheRecordSaysSo() {
        standing.set(mara, GERMAN, 3);
        settled(2);
        String third = offer("Wort {n}");
        assertThat(ledger.cell(third, "de")).isEqualTo("offered");
        answer(third, Action.SETTLE);
        String key = offer("Wort {n} bald");
        assertThat(ledger.cell(key, "de")).isEqualTo("settled Wort {n} bald");
        assertThat(ledger.ask(
                        String.class,
                        "select s.what || ' by ' || p.name || ': ' || s.after from cell_story s join person p on p.id = s.person_id "
                                + "where s.entry_id = " + ledger.entry(key)))
                .isEqualTo("settled_by_rule by LINA: Wort {n} bald");
        assertThat(ledger.ask(Boolean.class, "select by_rule from offer order by id desc limit 1"))
                .isTrue();
    }

    @Test
    void anAmendedOrReturnedOfferEndsTheRow() {
        standing.set(mara, GERMAN, 3);
        settled(3);
        assertThat(ledger.cell(offer("Wort {n} a"), "de")).startsWith("settled");
        // With something for the checks to find, it waits; so a reviewer's answer can end the row.
        String odd = offer("Wort {n} ");
        assertThat(ledger.cell(odd, "de")).isEqualTo("offered");
        answer(odd, Action.AMEND);
        assertThat(ledger.cell(offer("Wort {n} b"), "de")).isEqualTo("offered");
    }

    @Test
    void whatARuleSettledDoesNotMakeTheRowLonger() {
        standing.set(mara, GERMAN, 3);
        settled(3);
        offer("Wort {n} a");
        offer("Wort {n} b");
        offer("Wort {n} c");
        standing.set(mara, GERMAN, 4);
        assertThat(ledger.cell(offer("Wort {n} d"), "de")).isEqualTo("offered");
    }

    @Test
    void leavesProblemsMachinesTextsAndSettledTextsToReviewers() {
        standing.set(mara, GERMAN, 3);
        settled(3);
        assertThat(ledger.cell(offer("Wort ohne"), "de")).as("a blocker").isEqualTo("offered");
        String key = "k" + next++;
        CellChange draft = new CellChange(Action.PUT_FORWARD, 0, "Wort {n}", null, null, false, null, null, How.DRAFT);
        ledger.change(lina, key, "de", draft);
        assertThat(ledger.cell(key, "de")).as("a machine's draft").isEqualTo("offered");
        ledger.change(lina, "old", "de", CellChange.text(Action.PUT_FORWARD, 1, "Betagt"));
        assertThat(ledger.cell("old", "de")).as("over a settled text").isEqualTo("offered Alt");
    }
}
