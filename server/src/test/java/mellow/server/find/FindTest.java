package mellow.server.find;

import static org.assertj.core.api.Assertions.assertThat;

import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import mellow.core.merge.Arrival;
import mellow.server.record.SearchIndex;
import mellow.server.support.Http;
import mellow.server.support.ServerTest;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.http.HttpMethod;
import tools.jackson.databind.JsonNode;

class FindTest extends ServerTest {

    @Autowired
    private Http http;

    @Autowired
    private SearchIndex index;

    private long mara;

    @BeforeEach
    void someTables() {
        mara = ledger.coordinator("mara");
        ledger.takeIn(
                mara,
                "Ramp",
                "key,note,en,pl,ja,ar\nup,Drawn at the hinge,Ramp up,Rampa w górę,ランプを上げる,المُنحدر\nup.more,,100% up_now,,,\n",
                Arrival.SETTLED);
        ledger.takeIn(mara, "Deck", "key,en,de\nfog,Fog on deck,Nebel an Deck\n", Arrival.SETTLED);
    }

    private List<String> find(String words) throws Exception {
        List<String> found = new ArrayList<>();
        for (JsonNode one : http.get(
                        mara,
                        "/api/find?words="
                                + URLEncoder.encode(words, StandardCharsets.UTF_8)
                                        .replace("+", "%20"))
                .body()
                .path("entries")) {
            found.add(one.path("key").asString() + one.path("language").asString(""));
        }
        return found;
    }

    @ParameterizedTest(name = "{0}")
    @CsvSource({
        "up, up up.more",
        "HINGE, up",
        "gore, uppl",
        "górę, uppl",
        "nebel AN, fogde",
        "上げ, upja",
        "المنحدر, upar",
        "100%, up.more",
        "up_n, up.more",
        "nothing like it, ''",
        "'  ', ''"
    })
    void findsByKeySourceNoteAndText(String words, String expected) throws Exception {
        assertThat(String.join(" ", find(words))).isEqualTo(expected == null ? "" : expected);
    }

    @Test
    void peopleAreFoundByNameAndWhatWasRemovedIsNot() throws Exception {
        assertThat(http.get(mara, "/api/find?words=mar")
                        .body()
                        .path("people")
                        .get(0)
                        .path("name")
                        .asString())
                .isEqualTo("MARA");
        http.json(mara, HttpMethod.DELETE, "/api/tables/deck", "{}");
        assertThat(find("nebel")).isEmpty();
        assertThat(find("fog")).isEmpty();
    }

    @Test
    void whatCameInByTheThousandIsFoundBeforeAndAfterItIsIndexed() throws Exception {
        StringBuilder file = new StringBuilder("key,note,en,fi\n");
        for (int i = 0; i < 1_500; i++) {
            file.append("berth.")
                    .append(i)
                    .append(",,Berth ")
                    .append(i)
                    .append(",Laituri ")
                    .append(i)
                    .append('\n');
        }
        ledger.takeIn(mara, "Berths", file.toString(), Arrival.SETTLED);
        assertThat(ledger.ask(Integer.class, "select count(*)::int from cell where unindexed"))
                .isEqualTo(1_500);
        assertThat(find("laituri 1234")).containsExactly("berth.1234fi");
        assertThat(find("erth 777")).containsExactly("berth.777");
        JsonNode scope = http.get(mara, "/api/scope?table=berths&in=fi&words=laituri%201234")
                .body();
        assertThat(scope.path("deltas").size()).isEqualTo(1);
        while (index.step() > 0) {
            assertThat(find("laituri 1234")).containsExactly("berth.1234fi");
        }
        assertThat(ledger.ask(Integer.class, "select count(*)::int from cell where unindexed"))
                .isZero();
        assertThat(ledger.ask(Integer.class, "select count(*)::int from entry where unindexed"))
                .isZero();
        assertThat(find("erth 777")).containsExactly("berth.777");
    }
}
