package mellow.server.fill;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.tuple;

import mellow.core.language.LanguageTag;
import mellow.core.memory.Adaptation.Substitution;
import mellow.core.merge.Arrival;
import mellow.server.fill.FillService.Fill;
import mellow.server.fill.FillService.FillHit;
import mellow.server.memory.MemoryForTests;
import mellow.server.people.Level;
import mellow.server.support.Http;
import mellow.server.support.Http.Reply;
import mellow.server.support.ServerTest;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.context.annotation.Import;
import org.springframework.http.HttpMethod;

/** What is untranslated is filled from what was settled elsewhere, seen before and pencilled. */
@Import(MemoryForTests.class)
class FillTest extends ServerTest {

    private static final LanguageTag GERMAN = new LanguageTag("de");
    private static final String DECK =
            """
            key,en,de,pl
            closed,Deck 5 is closed,,
            same,Ramp up,,
            several,Stop,,
            alone,Nothing is like this one,,
            written,Ramp down,Rampe runter,
            empty,,,
            """;

    @Autowired
    private FillService fill;

    @Autowired
    private MemoryForTests memory;

    @Autowired
    private Http http;

    private long mara;

    @BeforeEach
    void tables() {
        mara = ledger.coordinator("mara");
        ledger.takeIn(
                mara,
                "Ramp",
                """
                key,en,de
                up,Ramp up,Rampe oben
                down,Ramp down,Rampe unten
                seven,Deck 7 is closed,Deck 7 ist geschlossen
                stop1,Stop,Halt
                stop2,Stop,Stopp
                stop3,Stop,Stopp
                """,
                Arrival.SETTLED);
        ledger.takeIn(mara, "Deck", DECK, Arrival.PENCILLED);
        ledger.takeIn(mara, "Draft", "key,en,de\ndraft,Nothing is like this one,Entwurf\n", Arrival.PENCILLED);
        memory.read();
    }

    @AfterEach
    void theMemoryIsNotForOtherTests() {
        memory.forget();
    }

    private Fill find(int least) {
        return fill.find("table=deck&in=de", GERMAN, least, 0, null);
    }

    @Test
    void theSameSourceFillsWithTheTextThatMostHave() {
        Fill found = find(100);
        assertThat(found.hits())
                .extracting(FillHit::key, FillHit::text, FillHit::percent, FillHit::from, FillHit::table)
                .containsExactly(
                        tuple("same", "Rampe oben", 100, "up", "Ramp"),
                        tuple("several", "Stopp", 100, "stop3", "Ramp"));
        assertThat(found.untranslated())
                .as("what has a text or no source is not looked at")
                .isEqualTo(4);
        assertThat(found.next()).isNull();
    }

    @Test
    void aSimilarOneFillsAdapted() {
        FillHit closed = find(95).hits().get(0);
        assertThat(closed.key()).isEqualTo("closed");
        assertThat(closed.text()).isEqualTo("Deck 5 ist geschlossen");
        assertThat(closed.percent()).isBetween(95, 99);
        assertThat(closed.otherSource()).isEqualTo("Deck 7 is closed");
        assertThat(closed.adapted()).containsExactly(new Substitution("7", "5"));
    }

    @Test
    void whatWasFilledIsPencilledAndTakenBackAsOne() throws Exception {
        StringBuilder cells = new StringBuilder();
        for (FillHit hit : find(95).hits()) {
            cells.append(cells.isEmpty() ? "" : ",")
                    .append("{\"entry\":%d,\"language\":\"de\",\"version\":%d,\"text\":\"%s\"}"
                            .formatted(hit.entry(), hit.version(), hit.text()));
        }
        Reply done = http.json(
                mara,
                HttpMethod.POST,
                "/api/cells/changes",
                "{\"action\":\"PENCIL\",\"how\":\"MEMORY\",\"meaningConfirmed\":false,\"cells\":[" + cells + "]}");
        assertThat(done.body().path("changed").asInt()).isEqualTo(3);
        assertThat(ledger.ask(String.class, "select origin from cell where entry_id = " + ledger.entry("same")))
                .as("where it came from is kept")
                .isEqualTo("memory");
        assertThat(find(95).hits()).isEmpty();
        http.json(
                mara,
                HttpMethod.POST,
                "/api/changes/" + done.body().path("change").asLong() + "/undo",
                "{}");
        assertThat(find(95).hits()).hasSize(3);
    }

    @Test
    void aPersonsTextIsNeverReplaced() throws Exception {
        FillHit seen = find(100).hits().get(0);
        ledger.takeIn(mara, "Deck", "key,de\nsame,Von Hand\n", Arrival.PENCILLED);
        Reply late = http.json(
                mara,
                HttpMethod.POST,
                "/api/cells/changes",
                "{\"action\":\"PENCIL\",\"how\":\"MEMORY\",\"meaningConfirmed\":false,\"cells\":[{\"entry\":%d,\"language\":\"de\",\"version\":%d,\"text\":\"x\"}]}"
                        .formatted(seen.entry(), seen.version()));
        assertThat(late.body().path("refusedInAll").asInt()).isEqualTo(1);
        assertThat(ledger.ask(String.class, "select text from cell where entry_id = " + seen.entry()))
                .isEqualTo("Von Hand");
    }

    @Test
    void whatCannotBeLookedForIsRefused() throws Exception {
        long kaja = ledger.person("kaja", "pl", Level.CONTRIBUTOR);
        String asked = "{\"scope\":\"table=deck&in=de\",\"language\":\"%s\",\"least\":%d,\"first\":0}";
        assertThat(preview(kaja, asked.formatted("pl", 100)).status()).isEqualTo(200);
        assertThat(preview(mara, asked.formatted("de", 30)).status()).isEqualTo(400);
        assertThat(preview(mara, asked.formatted("xx-nothing-x", 100)).status()).isBetween(400, 422);
        for (String words : new String[] {"%00", "a%zz", "%"}) {
            String scope = "{\"scope\":\"table=deck&in=de&words=%s\",\"language\":\"de\",\"least\":100,\"first\":0}";
            Reply odd = preview(mara, scope.replace("%s", words));
            assertThat(odd.status()).as(words).isEqualTo(422);
            assertThat(odd.code()).isEqualTo("bad-scope");
        }
        memory.forget();
        Reply early = preview(mara, asked.formatted("de", 100));
        assertThat(early.status()).isEqualTo(503);
        assertThat(early.code()).isEqualTo("memory-not-ready");
    }

    private Reply preview(long person, String body) throws Exception {
        return http.json(person, HttpMethod.POST, "/api/fill/preview", body);
    }

    @Test
    void onlySoManyAreToldAtOnce() {
        StringBuilder many = new StringBuilder("key,en,de\n");
        for (int i = 0; i < 2_600; i++) {
            many.append("m").append(i).append(",Ramp up,\n");
        }
        ledger.takeIn(mara, "Many", many.toString(), Arrival.SETTLED);
        Fill found = fill.find("table=many&in=de", GERMAN, 100, 0, null);
        assertThat(found.hits()).hasSize(2_000);
        assertThat(found.hits()).extracting(FillHit::text).containsOnly("Rampe oben");
        assertThat(found.next()).isEqualTo(2_000);
        Fill rest = fill.find("table=many&in=de", GERMAN, 100, 2_000, null);
        assertThat(rest.hits()).hasSize(600);
        assertThat(rest.next()).isNull();
    }
}
