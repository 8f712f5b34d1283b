package mellow.server.sheet;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import mellow.core.cell.CellState;
import mellow.core.merge.Arrival;
import mellow.server.cell.CellChange;
import mellow.server.cell.CellChange.Action;
import mellow.server.people.Level;
import mellow.server.support.Http;
import mellow.server.support.ServerTest;
import mellow.server.wordbook.WordbookService;
import mellow.server.wordbook.WordbookService.TermText;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.http.HttpMethod;
import tools.jackson.databind.JsonNode;

class SheetServiceTest extends ServerTest {

    @Autowired
    private WordbookService wordbook;

    @Autowired
    private Http http;

    private long mara;

    @BeforeEach
    void aTable() {
        mara = ledger.coordinator("mara");
        ledger.takeIn(
                mara,
                "Ramp panel",
                "key,section,en,de,fi\nup,Bow,Ramp up,Rampe oben,Ramppi ylhäällä\ndown,Bow,Ramp down,Rampe unten,\nmid,Stern,100% half_way,,\nzero,Bow,Zero,Null,Nolla\n",
                Arrival.SETTLED);
    }

    @Test
    void anEntryWithAnOpenQuestionIsFoundUntilItIsAnswered() throws Exception {
        long lina = ledger.person("lina", "de", Level.CONTRIBUTOR);
        String path = "/api/entries/" + ledger.entry("mid") + "/questions";
        long question = http.json(lina, HttpMethod.POST, path, "{\"text\":\"Half of what?\"}")
                .body()
                .path("id")
                .asLong();
        assertThat(keys("in=de&asked=open")).containsExactly("mid");
        JsonNode parts = http.get(lina, "/api/scope/parts?table=ramp-panel").body();
        assertThat(parts.path("asked").asInt()).isEqualTo(1);
        assertThat(parts.path("sections").get(0).path("name").asString()).isEqualTo("Bow");
        assertThat(parts.path("sections").get(0).path("entries").asInt()).isEqualTo(3);
        assertThat(http.json(lina, HttpMethod.PUT, "/api/questions/" + question + "/answer", "{\"text\":\"x\"}")
                        .status())
                .isEqualTo(403);
        http.json(mara, HttpMethod.PUT, "/api/questions/" + question + "/answer", "{\"text\":\"Of the way.\"}");
        assertThat(keys("in=de&asked=open")).isEmpty();
        JsonNode answered = http.get(lina, path).body().get(0);
        assertThat(answered.path("text").asString() + answered.path("answer").asString())
                .isEqualTo("Half of what?Of the way.");
    }

    @Test
    void textsInWhichTheChecksFindSomethingAreFound() throws Exception {
        ledger.takeIn(
                mara,
                "Ramp panel",
                "key,limit,en,de,fi\nlong,4,Short,Lang genug,\nlost,0,Up {n},,Ylös\nspace,0,Up,Hoch ,\n",
                Arrival.SETTLED);
        assertThat(keys("in=de,fi&check=blocker")).containsExactlyInAnyOrder("long", "lost");
        assertThat(keys("in=de&check=blocker")).containsExactly("long");
        assertThat(keys("in=de,fi&check=any")).containsExactlyInAnyOrder("long", "lost", "space");
        wordbook.add(mara, "en", "up", "", Map.of("fi", new TermText("Ylös", List.of("Ylöspäin"))));
        ledger.takeIn(mara, "Ramp panel", "key,en,fi\nword,Up,Ylöspäin\n", Arrival.SETTLED);
        assertThat(keys("in=fi&check=any")).contains("word");
        assertThat(keys("in=fi&check=blocker")).doesNotContain("word");
        assertThat(http.get(mara, "/api/scope?table=ramp-panel&in=de&check=some")
                        .code())
                .isEqualTo("unknown-check");
    }

    @Test
    void theNewestChangeComesFirst() throws Exception {
        ledger.allowOwn("Ramp panel", "de");
        ledger.change(mara, "down", "de", CellChange.text(Action.PUT_FORWARD, 1, "Klappe unten"));
        assertThat(keys("in=de&by=changed")).startsWith("down");
        assertThat(keys("in=fi&by=changed")).as("of the languages shown").doesNotContain("nothing");
    }

    private List<String> keys(String query) throws Exception {
        JsonNode scope = http.get(mara, "/api/scope?table=ramp-panel&" + query).body();
        List<String> ids = new ArrayList<>();
        long id = 0;
        for (JsonNode delta : scope.path("deltas")) {
            id += delta.asLong();
            ids.add(Long.toString(id));
        }
        List<String> keys = new ArrayList<>();
        http.get(mara, "/api/rows?in=de&ids=" + String.join(",", ids))
                .body()
                .forEach(row -> keys.add(row.path("key").asString()));
        return keys;
    }

    @ParameterizedTest(name = "{0}")
    @CsvSource(
            delimiter = '|',
            value = {
                "in=de|up down mid zero",
                "in=de&by=key|down mid up zero",
                "in=de&by=length|mid down up zero",
                "in=de&by=short|zero up down mid",
                "in=fi&by=state|up zero down mid",
                "in=de&section=Stern|mid",
                "in=de&asked=open|''",
                "in=de&only=untranslated|mid",
                "in=de,fi&only=untranslated|down mid",
                "in=fi&only=settled|up zero",
                "in=de,fi&only=settled,untranslated|up down mid zero",
                "in=de&words=RAMPE|up down",
                "in=fi&words=rampe|''",
                "in=de&words=100%25|mid",
                "in=de&words=half_way|mid",
                "in=de&words=half-way|''",
                "in=de&words=rampé|up down",
                "in=fi&words=ylhaalla|up",
                "in=de&section=Stern|mid",
                "in=de&only=stale|''"
            })
    void holdsWhatTheSentenceSays(String query, String expected) throws Exception {
        assertThat(String.join(" ", keys(query))).isEqualTo(expected == null ? "" : expected);
    }

    @Test
    void severalTablesFollowEachOtherAndAProductIsItsTables() throws Exception {
        ledger.takeIn(mara, "Alarms", "key,en,de\nfire,Fire,\n", Arrival.SETTLED);
        assertThat(keys("table=alarms&in=de")).containsExactly("up", "down", "mid", "zero", "fire");
        assertThat(keys("table=alarms&in=de,fi&only=untranslated")).containsExactly("down", "mid", "fire");
        http.json(
                mara,
                HttpMethod.POST,
                "/api/products",
                "{\"version\":0,\"name\":\"Bridge\",\"kind\":\"panel\",\"tables\":[\"alarms\",\"ramp-panel\"],\"languages\":[]}");
        JsonNode scope = http.get(mara, "/api/scope?product=bridge&in=de").body();
        assertThat(scope.path("deltas").size()).isEqualTo(5);
        assertThat(scope.path("sections").get(0).path("table").asString()).isEqualTo("alarms");
        assertThat(http.get(mara, "/api/scope?in=de").body().path("deltas").size())
                .isEqualTo(5);
    }

    @Test
    void findsByTagPersonAndTime() throws Exception {
        long lina = ledger.person("lina", "de", Level.CONTRIBUTOR);
        ledger.change(lina, "mid", "de", CellChange.text(Action.PUT_FORWARD, 0, "Halb"));
        assertThat(keys("in=de&person=" + lina)).containsExactly("mid");
        assertThat(keys("in=fi&person=" + lina)).isEmpty();
        assertThat(keys("in=de&since=2999-01-01T00:00:00Z")).isEmpty();
        assertThat(keys("in=de&since=2000-01-01T00:00:00Z")).hasSize(4);
        http.json(
                mara,
                HttpMethod.POST,
                "/api/entries/description",
                "{\"entries\":[" + ledger.entry("zero") + "],\"addTags\":[\"figures\"]}");
        assertThat(keys("in=de&tag=figures")).containsExactly("zero");
    }

    @Test
    void tellsWhereSectionsBegin() throws Exception {
        JsonNode sections =
                http.get(mara, "/api/scope?table=ramp-panel&in=de").body().path("sections");
        assertThat(sections.toString())
                .isEqualTo(
                        "[{\"name\":\"Bow\",\"at\":0,\"table\":\"ramp-panel\"},{\"name\":\"Stern\",\"at\":2,\"table\":\"ramp-panel\"},{\"name\":\"Bow\",\"at\":3,\"table\":\"ramp-panel\"}]");
    }

    @Test
    void showsWhatAnIntakeTouched() throws Exception {
        long intake = ledger.takeIn(mara, "Ramp panel", "key,en,fi\nmid,100% half_way,Puolivälissä\n", Arrival.SETTLED);
        assertThat(keys("in=de&intake=" + intake)).containsExactly("mid");
    }

    @Test
    void statesOfEveryLanguageAddUpToTheTable() throws Exception {
        ledger.change(mara, "mid", "de", CellChange.text(Action.PENCIL, 0, "Halb"));
        ledger.change(mara, "down", "fi", CellChange.text(Action.PUT_FORWARD, 0, "Alas"));
        JsonNode table = http.get(mara, "/api/tables").body().get(0);
        for (JsonNode language : table.path("languages")) {
            int sum = 0;
            for (CellState state : CellState.values()) {
                int counted = language.path("states").path(state.word()).asInt();
                sum += counted;
                assertThat(keys("in=" + language.path("language").path("tag").asString() + "&only=" + state.word()))
                        .as(state.word())
                        .hasSize(counted);
            }
            assertThat(sum).isEqualTo(table.path("entries").asInt());
        }
    }

    @ParameterizedTest
    @CsvSource({
        "/api/scope?table=nowhere, 404, no-such-table",
        "/api/scope?table=ramp-panel&in=ja, 422, language-not-kept",
        "/api/scope?table=ramp-panel&in=xx-klingon, 422, unknown-language",
        "/api/scope?table=ramp-panel&only=green, 422, unknown-state",
        "/api/scope?table=ramp-panel&by=colour, 422, unknown-order"
    })
    void saysWhatItCannotShow(String path, int status, String code) throws Exception {
        Http.Reply reply = http.get(mara, path);
        assertThat(reply.status()).isEqualTo(status);
        assertThat(reply.code()).isEqualTo(code);
        assertThat(reply.sentence()).isNotBlank();
    }

    @Test
    void givesNoMoreRowsThanAScreenNeeds() throws Exception {
        String ids = String.join(",", Collections.nCopies(201, "1"));
        assertThat(http.get(mara, "/api/rows?ids=" + ids).code()).isEqualTo("page-too-large");
    }
}
