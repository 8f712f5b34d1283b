package mellow.server.recording;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import mellow.core.merge.Arrival;
import mellow.core.merge.ChangeKind;
import mellow.core.merge.Choice;
import mellow.core.text.Shape;
import mellow.server.cell.CellChange;
import mellow.server.cell.CellChange.Action;
import mellow.server.entry.Description;
import mellow.server.entry.EntryService;
import mellow.server.intake.IntakeService;
import mellow.server.people.Level;
import mellow.server.run.RunService.Progress;
import mellow.server.support.AssetsMade;
import mellow.server.support.Http;
import mellow.server.support.ServerTest;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.http.HttpMethod;
import tools.jackson.databind.JsonNode;

/** A recording is stale when its line is rewritten, and current again when the line says what it said or somebody says that it holds. */
class RecordingTest extends ServerTest {

    @Autowired
    private EntryService entries;

    @Autowired
    private IntakeService intakes;

    @Autowired
    private Http http;

    private long mara;
    private long voice;

    @BeforeEach
    void aLineAndItsRecording() throws Exception {
        mara = ledger.coordinator("mara");
        ledger.takeIn(
                mara,
                "Script",
                "key,en,fi,de\nquay.hello,Hello,Hei,Hallo\nquay.bye,Bye,Hei hei,Tschüss\n",
                Arrival.SETTLED);
        ledger.allowOwn("Script", "fi");
        ledger.allowOwn("Script", "de");
        voice = recorded("voice/quay.hello", 1);
        put("voice/quay.hello", "fi", 2);
        put("voice/quay.hello", "de", 3);
        tie("quay.hello");
    }

    private long recorded(String key, int pitch) throws Exception {
        entries.create(
                mara,
                "script",
                Shape.ASSET,
                new Description(key, "", "", "", "", 0, 0, 0, List.of(), true),
                forms(pitch),
                null);
        return ledger.entry(key);
    }

    private TreeMap<String, String> forms(int pitch) throws Exception {
        String file = http.bytes(mara, "/api/assets?name=v.wav", AssetsMade.wav(50, 100 * pitch))
                .body()
                .path("file")
                .asString();
        return new TreeMap<>(Map.of("other", "v.wav", "file", file));
    }

    private void put(String key, String language, int pitch) throws Exception {
        ledger.change(mara, key, language, CellChange.forms(Action.PUT_FORWARD, version(key, language), forms(pitch)));
    }

    private int version(String key, String language) {
        return ledger.ask(
                Integer.class,
                "select coalesce((select version from cell c join language l on l.id = c.language_id where l.tag = '"
                        + language + "' and entry_id = " + ledger.entry(key) + "), 0)");
    }

    private void say(String key, String language, String text) {
        ledger.change(
                mara,
                key,
                language,
                CellChange.forms(Action.PUT_FORWARD, version(key, language), new TreeMap<>(Map.of("other", text))));
    }

    private void tie(String line) throws Exception {
        assertThat(http.json(
                                mara,
                                HttpMethod.PUT,
                                "/api/entries/" + voice + "/line",
                                "{\"table\":\"script\",\"key\":\"" + line + "\"}")
                        .status())
                .isEqualTo(204);
    }

    private String state(String language) {
        return ledger.cell("voice/quay.hello", language).split(" ")[0];
    }

    private JsonNode line() throws Exception {
        return http.get(mara, "/api/rows?ids=" + voice + "&in=fi")
                .body()
                .path(0)
                .path("line");
    }

    @Test
    void aRewrittenLineMakesItsRecordingStaleInThatLanguageOnly() throws Exception {
        say("quay.hello", "fi", "Terve");
        assertThat(state("fi")).isEqualTo("stale");
        assertThat(state("de")).isEqualTo("settled");
        assertThat(line().path("key").asString()).isEqualTo("quay.hello");
        assertThat(line().path("moved").toString()).isEqualTo("[\"fi\"]");
        say("quay.bye", "de", "Servus");
        assertThat(state("de")).isEqualTo("settled");
    }

    @Test
    void aLineThatSaysAgainWhatWasRecordedMakesItCurrent() throws Exception {
        say("quay.hello", "fi", "Terve");
        say("quay.hello", "fi", "Moi");
        assertThat(state("fi")).isEqualTo("stale");
        say("quay.hello", "fi", "Hei");
        assertThat(state("fi")).isEqualTo("settled");
        assertThat(line().path("moved").size()).isZero();
    }

    @Test
    void recordedAnewOrFoundStillRightItIsMadeForTheNewLine() throws Exception {
        say("quay.hello", "fi", "Terve");
        put("voice/quay.hello", "fi", 4);
        assertThat(state("fi")).isEqualTo("settled");
        say("quay.hello", "fi", "Hei");
        assertThat(state("fi")).isEqualTo("stale");
        ledger.change(
                mara,
                "voice/quay.hello",
                "fi",
                CellChange.text(Action.STILL_HOLDS, version("voice/quay.hello", "fi"), ""));
        assertThat(state("fi")).isEqualTo("settled");
        say("quay.hello", "fi", "Terve");
        assertThat(state("fi")).as("it was last found right for another line").isEqualTo("stale");
    }

    @Test
    void aRewrittenSourceIsTheSourcesRecordingsMatter() throws Exception {
        rewrite("Hello there");
        assertThat(state("fi")).isEqualTo("settled");
        assertThat(line().path("moved").toString()).isEqualTo("[\"en\"]");
        rewrite("Hello");
        assertThat(line().path("moved").size()).isZero();
        rewrite("Hello there");
        tie("quay.hello");
        assertThat(line().path("moved").size()).as("somebody said that it fits").isZero();
        rewrite("Hello");
        entries.rewrite(mara, voice, entryVersion(voice), forms(9), true);
        assertThat(line().path("moved").size()).as("recorded anew").isZero();
        assertThat(state("fi")).as("as with texts").isEqualTo("stale");
    }

    private void rewrite(String source) {
        long hello = ledger.entry("quay.hello");
        entries.rewrite(mara, hello, entryVersion(hello), new TreeMap<>(Map.of("other", source)), true);
    }

    private int entryVersion(long entry) {
        return ledger.ask(Integer.class, "select version from entry where id = " + entry);
    }

    @Test
    void anIntakeThatBringsLinesMakesRecordingsStaleAndTakenBackCurrent() {
        long intake = ledger.takeIn(
                mara,
                "Script",
                "key,en,fi,de\nquay.hello,Hello,Terve,Hallo\nquay.bye,Bye,Hei hei,Tschüss\n",
                Arrival.SETTLED);
        assertThat(ledger.cell("quay.hello", "fi")).contains("Terve");
        assertThat(state("fi")).isEqualTo("stale");
        intakes.undo(mara, intake, false);
        assertThat(state("fi")).isEqualTo("settled");
    }

    @Test
    void aRecordingThatComesWithItsLineWasMadeForIt() throws Exception {
        String both = "{\"mellowLedger\":1,\"sourceLanguage\":\"en\",\"languages\":[\"en\",\"fi\"],\"entries\":["
                + "{\"key\":\"quay.hello\",\"texts\":{\"en\":{\"other\":\"Hello\"},\"fi\":{\"other\":\"Terve\"}}},"
                + "{\"key\":\"voice/quay.hello\",\"shape\":\"asset\",\"texts\":{\"fi\":{\"other\":\"v.wav\",\"file\":\"%s\"}}}]}";
        long intake = intakes.upload(
                mara, "both.ledger.json", both.formatted(forms(8).get("file")).getBytes(StandardCharsets.UTF_8));
        intakes.decide(mara, intake, "script", null, Arrival.SETTLED);
        intakes.decide(mara, intake, ChangeKind.DIFFER_FROM_SETTLED, Choice.TAKE);
        intakes.apply(mara, intake, Progress.UNWATCHED);
        assertThat(ledger.cell("quay.hello", "fi")).contains("Terve");
        assertThat(state("fi")).isEqualTo("settled");
        say("quay.hello", "fi", "Hei");
        assertThat(state("fi")).isEqualTo("stale");
    }

    @Test
    void untiedALineMovesNothing() throws Exception {
        assertThat(http.json(mara, HttpMethod.DELETE, "/api/entries/" + voice + "/line", "{}")
                        .status())
                .isEqualTo(204);
        say("quay.hello", "fi", "Terve");
        assertThat(state("fi")).isEqualTo("settled");
        assertThat(line().isMissingNode() || line().isNull()).isTrue();
    }

    @Test
    void allRecordingsOfATableFindTheirLinesByTheirKeys() throws Exception {
        recorded("voice/quay.bye", 5);
        recorded("voice/ship.horn", 6);
        String address = "/api/tables/script/recordings";
        JsonNode told = http.json(mara, HttpMethod.POST, address, "{\"lines\":\"script\",\"tie\":false}")
                .body();
        assertThat(told.path("pairs").asInt()).isEqualTo(1);
        assertThat(told.path("first").path(0).path("line").asString()).isEqualTo("quay.bye");
        assertThat(told.path("without").toString()).isEqualTo("[\"voice/ship.horn\"]");
        assertThat(ledger.ask(Integer.class, "select count(*)::int from recording"))
                .isEqualTo(1);
        http.json(mara, HttpMethod.POST, address, "{\"lines\":\"script\",\"tie\":true}");
        assertThat(ledger.ask(Integer.class, "select count(*)::int from recording"))
                .isEqualTo(2);
    }

    @Test
    void tiedByManyAtOnceEachIsTiedOnce() throws Exception {
        for (int i = 0; i < 5; i++) {
            ledger.run("delete from recording");
            ExecutorService many = Executors.newFixedThreadPool(6);
            try {
                List<Future<Integer>> replies = new ArrayList<>();
                for (int n = 0; n < 6; n++) {
                    replies.add(many.submit(() -> http.json(
                                    mara,
                                    HttpMethod.POST,
                                    "/api/tables/script/recordings",
                                    "{\"lines\":\"script\",\"tie\":true}")
                            .status()));
                }
                for (Future<Integer> reply : replies) {
                    assertThat(reply.get()).isEqualTo(200);
                }
            } finally {
                many.shutdownNow();
            }
            assertThat(ledger.ask(Integer.class, "select count(*)::int from recording"))
                    .isEqualTo(1);
        }
    }

    @Test
    void onlyCoordinatorsSayWhichLineARecordingSpeaks() throws Exception {
        long ben = ledger.person("ben", "fi", Level.REVIEWER);
        String body = "{\"table\":\"script\",\"key\":\"quay.bye\"}";
        String address = "/api/entries/" + voice + "/line";
        assertThat(http.json(ben, HttpMethod.PUT, address, body).status()).isEqualTo(403);
        assertThat(http.json(ben, HttpMethod.DELETE, address, "{}").status()).isEqualTo(403);
        assertThat(http.json(
                                ben,
                                HttpMethod.POST,
                                "/api/tables/script/recordings",
                                "{\"lines\":\"script\",\"tie\":true}")
                        .status())
                .isEqualTo(403);
        assertThat(http.json(mara, HttpMethod.PUT, address, "{\"table\":\"script\",\"key\":\"none\"}")
                        .code())
                .isEqualTo("no-such-line");
        assertThat(http.json(mara, HttpMethod.PUT, address, "{\"table\":\"script\",\"key\":\"voice/quay.hello\"}")
                        .code())
                .as("a recording speaks no recording")
                .isEqualTo("no-such-line");
        assertThat(http.json(
                                mara,
                                HttpMethod.PUT,
                                "/api/entries/" + ledger.entry("quay.bye") + "/line",
                                "{\"table\":\"script\",\"key\":\"quay.hello\"}")
                        .status())
                .as("a text speaks nothing")
                .isEqualTo(404);
    }
}
