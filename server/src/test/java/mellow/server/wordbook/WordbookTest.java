package mellow.server.wordbook;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.List;
import java.util.Map;
import mellow.core.merge.Arrival;
import mellow.server.people.Level;
import mellow.server.support.Http;
import mellow.server.support.ServerTest;
import mellow.server.wordbook.WordbookService.Term;
import mellow.server.wordbook.WordbookService.TermText;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.http.HttpMethod;
import tools.jackson.databind.JsonNode;

/** The wordbook, and the checks that speak of it. */
class WordbookTest extends ServerTest {

    @Autowired
    private WordbookService wordbook;

    @Autowired
    private Http http;

    private long mara;

    @BeforeEach
    void aTerm() {
        mara = ledger.coordinator("mara");
        ledger.takeIn(
                mara, "Panel", "key,limit,en,de,fi\nup,12,Ramps up {n},,\nother,0,Trampoline,,\n", Arrival.SETTLED);
        wordbook.add(mara, "en", "ramp", "the moving one", Map.of("de", new TermText("Rampe", List.of("Auffahrt"))));
    }

    private JsonNode check(String key, String text) throws Exception {
        return http.json(
                        mara,
                        HttpMethod.POST,
                        "/api/entries/" + ledger.entry(key) + "/cells/de/check",
                        "{\"forms\":{\"other\":\"" + text + "\"}}")
                .body();
    }

    private static List<String> found(JsonNode reply) {
        return reply.path("findings")
                .valueStream()
                .map(one ->
                        one.path("code").asString() + " " + one.path("severity").asString())
                .toList();
    }

    @Test
    void termsOfTheSourceAreTold() throws Exception {
        JsonNode reply = check("up", "Rampe {n}");
        assertThat(found(reply)).isEmpty();
        assertThat(reply.path("terms").get(0).path("text").asString()).isEqualTo("Rampe");
        assertThat(check("other", "Trampolin").path("terms").isEmpty()).isTrue();
    }

    @Test
    void whatIsWrongIsTold() throws Exception {
        JsonNode reply = check("up", "Auffahrten oben");
        assertThat(found(reply))
                .containsExactly("placeholder-missing blocker", "too-long blocker", "word-to-avoid warning");
        assertThat(reply.path("findings").get(2).path("sentence").asString())
                .isEqualTo("“Auffahrten” is to be avoided; say “Rampe”.");
    }

    @Test
    void aReviewerChangesTheirLanguageAndNothingElse() {
        long oskar = ledger.person("oskar", "fi", Level.REVIEWER);
        Term term = wordbook.all().get(0);
        wordbook.change(
                oskar,
                term.id(),
                term.version(),
                "hijacked",
                "hijacked",
                Map.of("fi", new TermText("ramppi", List.of())));
        Term after = wordbook.all().get(0);
        assertThat(after.term()).isEqualTo("ramp");
        assertThat(after.note()).isEqualTo("the moving one");
        assertThat(after.texts().get("fi").text()).isEqualTo("ramppi");
        assertThat(after.texts().get("de").avoid()).containsExactly("Auffahrt");
        assertThatThrownBy(() -> wordbook.change(
                        oskar, term.id(), after.version(), "ramp", "", Map.of("de", new TermText("x", List.of()))))
                .hasMessageContaining("Only a reviewer of de");
        assertThatThrownBy(() -> wordbook.change(
                        oskar, term.id(), term.version(), "ramp", "", Map.of("fi", new TermText("x", List.of()))))
                .hasMessageContaining("Someone changed this term meanwhile");
    }

    @Test
    void aTermIsThereOnceWhateverItsCaseUntilItIsRemoved() {
        assertThatThrownBy(() -> wordbook.add(mara, "en", "RAMP", "", Map.of()))
                .hasMessageContaining("has “RAMP” already");
        wordbook.remove(mara, wordbook.all().get(0).id());
        assertThat(wordbook.all()).isEmpty();
        wordbook.add(mara, "en", "RAMP", "", Map.of());
        assertThat(wordbook.all()).hasSize(1);
    }
}
