package mellow.server.note;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import mellow.core.merge.Arrival;
import mellow.server.support.Http;
import mellow.server.support.ServerTest;
import mellow.server.wordbook.WordbookService;
import mellow.server.wordbook.WordbookService.TermText;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.http.HttpMethod;

/** The footnotes of a cell in one reply. */
class NotesTest extends ServerTest {

    private static final String TYPED = "{\"forms\":{\"other\":\"Rampe\"}}";

    @Autowired
    private Http http;

    @Autowired
    private WordbookService wordbook;

    private long mara;

    @BeforeEach
    void aCellWithEverything() throws Exception {
        mara = ledger.coordinator("mara");
        ledger.takeIn(mara, "Panel", "key,en,de\nup,Ramp up {n},Rampe hoch {n}\ndown,Ramp up {n},\n", Arrival.SETTLED);
        wordbook.add(mara, "en", "ramp", "", Map.of("de", new TermText("Rampe", List.of())));
        http.json(
                mara,
                HttpMethod.POST,
                "/api/entries/" + ledger.entry("down") + "/questions",
                "{\"text\":\"Which ramp?\"}");
    }

    @Test
    void sayWhatEachOfThemSaysAlone() throws Exception {
        String entry = "/api/entries/" + ledger.entry("down");
        var notes = http.json(mara, HttpMethod.POST, entry + "/cells/de/notes", TYPED)
                .body();
        assertThat(notes.path("memory"))
                .hasSize(1)
                .isEqualTo(http.json(mara, HttpMethod.GET, entry + "/cells/de/memory", "")
                        .body());
        assertThat(notes.path("check").path("findings")).isNotEmpty();
        assertThat(notes.path("check").path("terms")).hasSize(1);
        assertThat(notes.path("check"))
                .isEqualTo(http.json(mara, HttpMethod.POST, entry + "/cells/de/check", TYPED)
                        .body());
        assertThat(notes.path("questions"))
                .hasSize(1)
                .isEqualTo(http.json(mara, HttpMethod.GET, entry + "/questions", "")
                        .body());
        String told = "/api/entries/" + ledger.entry("up") + "/cells/de";
        assertThat(http.json(mara, HttpMethod.POST, told + "/notes", TYPED)
                        .body()
                        .path("story"))
                .hasSize(1)
                .isEqualTo(http.get(mara, told + "/story").body());
    }

    @Test
    void areRefusedForAnEntryThatThereIsNot() throws Exception {
        assertThat(http.json(mara, HttpMethod.POST, "/api/entries/0/cells/de/notes", TYPED)
                        .status())
                .isEqualTo(404);
    }

    @Test
    void areNoPlaceForATextWithoutForms() throws Exception {
        String notes = "/api/entries/" + ledger.entry("up") + "/cells/de/notes";
        assertThat(http.json(mara, HttpMethod.POST, notes, "{}").status()).isEqualTo(400);
    }
}
