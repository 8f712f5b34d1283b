package mellow.server.people;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import mellow.core.merge.Arrival;
import mellow.server.support.Http;
import mellow.server.support.ServerTest;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.test.context.TestPropertySource;

/** Where a setting says so, people read their languages alone, by whatever endpoint. */
@TestPropertySource(properties = "mellow.reading=own")
class ReadingTest extends ServerTest {

    @Autowired
    private Http http;

    private long mara;
    private long wanda;

    @BeforeEach
    void aTable() {
        mara = ledger.coordinator("mara");
        wanda = ledger.person("wanda", "pl", Level.REVIEWER);
        ledger.takeIn(
                mara,
                "Ramp",
                "key,en,pl,de\nup,Ramp up,Rampa w górę,Rampe hoch\nup2,Ramp up,Rampa w górę,Rampe hoch\n",
                Arrival.SETTLED);
    }

    private String read(long person, String path) throws Exception {
        Http.Reply reply = http.get(person, path);
        return reply.status() + " " + new String(reply.bytes(), StandardCharsets.UTF_8);
    }

    @Test
    void noEndpointHandsOutTextsOfOthersLanguages() throws Exception {
        long entry = ledger.entry("up");
        for (String path : new String[] {
            "/api/tables",
            "/api/rows?ids=" + entry + "&in=de,pl",
            "/api/scope?table=ramp&in=de,pl&words=Rampe",
            "/api/find?words=Rampe",
            "/api/entries/" + entry + "/cells/de/story",
            "/api/entries/" + entry + "/cells/de/memory",
            "/api/tables/ramp/export/fresh?format=csv",
            "/api/tables/ramp/export/fresh?format=csv&in=de",
            "/api/tables/ramp/export/in-place?file=Ramp.csv",
            "/api/tables/ramp/export/set",
            "/api/review?in=de"
        }) {
            assertThat(read(wanda, path)).as(path).doesNotContain("Rampe hoch").doesNotContain("\"German\"");
        }
        assertThat(read(wanda, "/api/rows?ids=" + entry + "&in=de,pl")).contains("Rampa");
        assertThat(read(wanda, "/api/tables/ramp/export/fresh?format=csv")).contains("Rampa");
        assertThat(read(wanda, "/api/tables/ramp/export/in-place?file=Ramp.csv"))
                .startsWith("403");
    }

    @Test
    void coordinatorsReadAll() throws Exception {
        assertThat(read(mara, "/api/find?words=Rampe")).contains("Rampe hoch");
        assertThat(read(mara, "/api/tables/ramp/export/in-place?file=Ramp.csv")).contains("Rampe hoch");
    }
}
