package mellow.server.export;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import mellow.core.merge.Arrival;
import mellow.server.cell.CellChange;
import mellow.server.cell.CellChange.Action;
import mellow.server.people.Level;
import mellow.server.support.Http;
import mellow.server.support.ServerTest;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

class ExportTest extends ServerTest {

    private static final Charset WINDOWS = Charset.forName("windows-1252");
    private static final byte[] SHEET =
            "Panel;;\r\n;English;Deutsch\r\nup;Ramp up;\"Rampe; oben\"\r\ndown;Ramp down;Öffnen\r\nmid;Halfway;\r\n"
                    .getBytes(WINDOWS);

    @Autowired
    private Http http;

    private long mara;

    @BeforeEach
    void aTable() {
        mara = ledger.coordinator("mara");
        ledger.takeIn(mara, "Ramp panel", "panel.csv", SHEET, Arrival.SETTLED);
        ledger.allowOwn("Ramp panel", "de");
    }

    private Http.Reply inPlace() throws Exception {
        return http.get(mara, "/api/tables/ramp-panel/export/in-place?file=panel.csv");
    }

    @Test
    void givesTheSameBytesWhenNothingChanged() throws Exception {
        assertThat(inPlace().bytes()).isEqualTo(SHEET);
    }

    @Test
    void touchesOnlyTheChangedLines() throws Exception {
        ledger.change(mara, "up", "de", CellChange.text(Action.PUT_FORWARD, 1, "Rampe \"hoch\""));
        ledger.change(mara, "mid", "de", CellChange.text(Action.PENCIL, 0, "Halb"));
        ledger.change(mara, "down", "de", new CellChange(Action.CLEAR, 1, null, null, null, false, null));
        assertThat(new String(inPlace().bytes(), WINDOWS))
                .isEqualTo(
                        "Panel;;\r\n;English;Deutsch\r\nup;Ramp up;\"Rampe \"\"hoch\"\"\"\r\ndown;Ramp down;\r\nmid;Halfway;Halb\r\n");
    }

    @Test
    void whatAFormatHasNoPlaceForIsToldBefore() throws Exception {
        ledger.run("update entry set section = 'Bow', max_length = 20 where key <> 'mid'");
        ledger.lookAgain();
        ledger.change(mara, "mid", "de", CellChange.text(Action.PENCIL, 0, "Halb"));
        var losses = http.get(mara, "/api/tables/ramp-panel/export/losses?format=po&in=de")
                .body();
        assertThat(losses.path("counts").toString()).isEqualTo("{\"section\":2,\"limit\":2}");
        assertThat(losses.path("refusedCount").asInt()).isZero();
        var json = http.get(mara, "/api/tables/ramp-panel/export/losses?format=json")
                .body();
        assertThat(json.path("counts").path("state").asInt()).isEqualTo(1);
        assertThat(http.get(mara, "/api/tables/ramp-panel/export/losses?format=xliff-2")
                        .body()
                        .path("counts"))
                .isEmpty();
        assertThat(http.get(mara, "/api/tables/ramp-panel/export/losses?format=doc")
                        .code())
                .isEqualTo("unknown-format");
    }

    @Test
    void allThatStandsAgainstAFileIsNamed() throws Exception {
        ledger.run("update entry set context = 'On the bridge' where key <> 'mid'");
        ledger.lookAgain();
        var losses = http.get(mara, "/api/tables/ramp-panel/export/losses?format=json")
                .body();
        assertThat(losses.path("refused").toString()).isEqualTo("[\"up\",\"down\"]");
        Http.Reply refused = http.get(mara, "/api/tables/ramp-panel/export/fresh?format=json&in=de");
        assertThat(refused.status()).isEqualTo(422);
        assertThat(refused.sentence())
                .contains("JSON has no place for the context of up")
                .contains("1 more: down");
        ledger.change(mara, "mid", "de", CellChange.text(Action.PENCIL, 0, "Halb"));
        assertThat(new String(
                        http.get(mara, "/api/tables/ramp-panel/export/fresh?format=json&in=de&leaveOut=true")
                                .bytes(),
                        StandardCharsets.UTF_8))
                .isEqualTo("{\n  \"mid\": \"Halb\"\n}\n");
    }

    @Test
    void nothingIsNotSent() throws Exception {
        Http.Reply refused = http.get(mara, "/api/tables/ramp-panel/export/fresh?format=po&only=stale");
        assertThat(refused.code()).isEqualTo("nothing-to-send");
        assertThat(refused.sentence()).contains("would be empty");
    }

    @Test
    void anOfferDoesNotLeaveAsIfItWereSettled() throws Exception {
        long lina = ledger.person("lina", "de", Level.CONTRIBUTOR);
        ledger.change(lina, "up", "de", CellChange.text(Action.PUT_FORWARD, 1, "Klappe oben"));
        assertThat(inPlace().bytes()).isEqualTo(SHEET);
        assertThat(new String(
                        http.get(mara, "/api/tables/ramp-panel/export/fresh").bytes(), StandardCharsets.UTF_8))
                .contains("Rampe; oben")
                .doesNotContain("Klappe");
    }

    @Test
    void addsEntriesThatCameFromElsewhere() throws Exception {
        ledger.takeIn(
                mara,
                "Ramp panel",
                "more.csv",
                "key,en,de\nup,Ramp up,\nup2,Higher,Höher\n".getBytes(StandardCharsets.UTF_8),
                Arrival.SETTLED);
        assertThat(new String(inPlace().bytes(), WINDOWS))
                .isEqualTo(
                        "Panel;;\r\n;English;Deutsch\r\nup;Ramp up;\"Rampe; oben\"\r\nup2;Higher;Höher\r\ndown;Ramp down;Öffnen\r\nmid;Halfway;\r\n");
    }

    @Test
    void aFileThatCoversAPartGetsNoOtherEntries() throws Exception {
        String part = "key,en\ndown,Ramp fully down\n";
        ledger.takeIn(mara, "Ramp panel", "part.csv", part.getBytes(StandardCharsets.UTF_8), Arrival.SETTLED);
        ledger.takeIn(
                mara, "Ramp panel", "more.csv", "key,en\nnew,New\n".getBytes(StandardCharsets.UTF_8), Arrival.SETTLED);
        String written = new String(
                http.get(mara, "/api/tables/ramp-panel/export/in-place?file=part.csv")
                        .bytes(),
                StandardCharsets.UTF_8);
        assertThat(written).isEqualTo(part);
    }

    @Test
    void saysWhichCharacterDoesNotFitTheFile() throws Exception {
        ledger.change(mara, "mid", "de", CellChange.text(Action.PUT_FORWARD, 0, "半分"));
        Http.Reply refused = inPlace();
        assertThat(refused.status()).isEqualTo(422);
        assertThat(refused.sentence()).contains("text of mid has the character “半”, which windows-1252");
    }

    @Test
    void aFreshFileReadsAsTheSameTable() throws Exception {
        ledger.change(mara, "mid", "de", CellChange.text(Action.PENCIL, 0, "=1+1"));
        String fresh = new String(
                http.get(mara, "/api/tables/ramp-panel/export/fresh?delimiter=semicolon")
                        .bytes(),
                StandardCharsets.UTF_8);
        assertThat(fresh)
                .isEqualTo(
                        "\uFEFFKey;en;de\r\nup;Ramp up;\"Rampe; oben\"\r\ndown;Ramp down;Öffnen\r\nmid;Halfway;'=1+1\r\n");
        String settled = new String(
                http.get(mara, "/api/tables/ramp-panel/export/fresh?onlySettled=true&in=de")
                        .bytes(),
                StandardCharsets.UTF_8);
        assertThat(settled).endsWith("mid,Halfway,\r\n");
        ledger.takeIn(mara, "Copy", "copy.csv", fresh.getBytes(StandardCharsets.UTF_8), Arrival.SETTLED);
        assertThat(
                        ledger.ask(
                                String.class,
                                "select c.text from cell c join entry e on e.id = c.entry_id join ledger_table t on t.id = e.table_id where t.name = 'Copy' and e.key = 'mid'"))
                .isEqualTo("=1+1");
    }

    @Test
    void refusesWhatItDoesNotHave() throws Exception {
        assertThat(http.get(mara, "/api/tables/ramp-panel/export/in-place?file=other.csv")
                        .code())
                .isEqualTo("no-such-file");
        assertThat(http.get(mara, "/api/tables/ramp-panel/export/fresh?delimiter=hash")
                        .code())
                .isEqualTo("unknown-delimiter");
        assertThat(http.get(mara, "/api/tables/ramp-panel/export/fresh?in=ja").code())
                .isEqualTo("language-not-kept");
        assertThat(http.get(mara, "/api/tables/ramp-panel/export/files").body().toString())
                .isEqualTo("[\"panel.csv\"]");
    }
}
