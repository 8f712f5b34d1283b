package mellow.server.bundle;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import mellow.server.people.Level;
import mellow.server.support.Http;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.http.HttpMethod;
import org.springframework.mock.web.MockHttpServletResponse;
import tools.jackson.databind.JsonNode;

/** What is told of who asked for what, and how far the languages are. */
class BundleUseTest extends BundleCase {

    private static final String USE = "/api/products/deck-app/bundles/use";

    @Autowired
    private BundleUse use;

    private List<String> rows() throws Exception {
        List<String> rows = new ArrayList<>();
        for (JsonNode row : http.get(mara, USE).body().path("rows")) {
            rows.add(row.path("name").asString("")
                    + (row.path("token").asLong() == BundleUse.STRANGER ? "stranger" : "") + " "
                    + row.path("what").asString() + " " + row.path("language").asString() + " "
                    + row.path("answered").asInt() + "/" + row.path("unchanged").asInt() + "/"
                    + row.path("refused").asInt());
        }
        return rows;
    }

    @Test
    void eachAnswerCountsForWhoAskedAndWhatFor() throws Exception {
        serve(false);
        String app = "Bearer " + token(false);
        String tag = String.valueOf(ask("deck-app/de", "Authorization", app).getHeader("ETag"));
        int bytes = ask("deck-app/3", "Authorization", app).getContentAsByteArray().length;
        ask("deck-app/de", "Authorization", app, "If-None-Match", tag);
        ask(HttpMethod.HEAD, "deck-app/de", "Authorization", app);
        ask("deck-app", "Authorization", app);
        ask("deck-app/de?since=1", "Authorization", app);
        ask("deck-app/de?since=7", "Authorization", app);
        ask("deck-app/de?live=true", "Authorization", app);
        ask("deck-app/de/events", "Authorization", app);
        ask("deck-app/de", "Authorization", "Bearer bundle-guess");
        ask("nothing/de", "Authorization", app);
        assertThat(rows())
                .containsExactlyInAnyOrder(
                        "App texts de 2/1/0",
                        "App texts fi 1/0/0",
                        "App list  1/0/0",
                        "App changes de 1/0/0",
                        "App changes  0/0/1",
                        "App live  0/0/1",
                        "App events  0/0/1",
                        "stranger texts  0/0/1");
        assertThat(ledger.ask(Long.class, "select bytes from bundle_use where language = 'fi'"))
                .isEqualTo(bytes);
        serve(true);
        ask("deck-app/fi");
        assertThat(rows()).contains(" texts fi 1/0/0");
        JsonNode days = http.get(mara, USE).body().path("byDay");
        assertThat(days.size()).isEqualTo(1);
        assertThat(days.get(0).path("answered").asInt()).isEqualTo(6);
        assertThat(days.get(0).path("refused").asInt()).isEqualTo(4);
    }

    @Test
    void whatSeveralServersCountedAddsUpAndOldDaysGo() throws Exception {
        serve(true);
        ask("deck-app/de");
        use.keep();
        // Another server's, of the same day, and of one that is too long ago.
        ledger.run("update bundle_use set answered = answered + 5");
        ledger.run(
                "insert into bundle_use select product_id, day - 100, token_id, what, language, 1, 0, 0, 0, last_at from bundle_use");
        ask("deck-app/de");
        assertThat(rows()).containsExactly(" texts de 7/0/0");
        assertThat(ledger.ask(Long.class, "select count(*) from bundle_use")).isEqualTo(1);
        // Of a product that is no more nothing is left to count, and the others are.
        use.answered(new BundleUse.Asker(-5, 0), new BundleUse.Wish("texts", "de"), 1);
        ask("deck-app/de");
        assertThat(rows()).containsExactly(" texts de 8/0/0");
    }

    @Test
    void onlyCoordinatorsSeeIt() throws Exception {
        long oskar = ledger.person("oskar", "de", Level.REVIEWER);
        assertThat(http.get(oskar, USE).status()).isEqualTo(403);
        assertThat(http.get(mara, USE + "?days=93").code()).isEqualTo("bad-days");
        assertThat(http.get(mara, USE + "?days=0").code()).isEqualTo("bad-days");
        assertThat(http.get(mara, "/api/products/nothing/bundles/use").status()).isEqualTo(404);
    }

    @ParameterizedTest
    @CsvSource({
        "de.svg, 'Deutsch: 66 %'",
        "3.svg, 'suomi: 33 %'",
        "en.svg, 'English: 100 %'",
        "xx.svg, 'English: 100 %'"
    })
    void howFarALanguageIsCanBeShown(String asked, String label) throws Exception {
        choose(false, true);
        MockHttpServletResponse badge = at(HttpMethod.GET, "shown/deck-app/" + asked);
        assertThat(badge.getStatus()).isEqualTo(200);
        assertThat(badge.getContentType()).startsWith("image/svg+xml");
        assertThat(badge.getContentAsString(StandardCharsets.UTF_8)).contains("aria-label=\"" + label + "\"");
        assertThat(badge.getHeader("Cache-Control")).contains("public").contains("max-age=300");
        assertThat(badge.getHeader("X-Frame-Options")).isNull();
        MockHttpServletResponse again =
                at(HttpMethod.GET, "shown/deck-app/" + asked, "If-None-Match", String.valueOf(badge.getHeader("ETag")));
        assertThat(again.getStatus()).isEqualTo(304);
    }

    @Test
    void allLanguagesStandInATableForFramesUnlessItIsSwitchedOff() throws Exception {
        assertThat(at(HttpMethod.GET, "shown/deck-app/table").getStatus()).isEqualTo(404);
        serve(true);
        assertThat(at(HttpMethod.GET, "shown/deck-app/table").getStatus())
                .as("off unless it is asked for")
                .isEqualTo(404);
        for (String product : List.of("deck-app", "nothing")) {
            assertThat(at(HttpMethod.GET, "shown/" + product + "/de.svg").getContentAsString())
                    .as(product)
                    .contains("\"code\":\"not-shown\"");
        }
        choose(true, true);
        MockHttpServletResponse table = at(HttpMethod.GET, "shown/deck-app/table?theme=dark");
        assertThat(table.getHeader("Content-Security-Policy")).contains("frame-ancestors *");
        assertThat(table.getContentAsString(StandardCharsets.UTF_8))
                .contains("<th scope=\"row\" lang=\"de\"><bdi dir=\"ltr\">Deutsch</bdi><td class=\"share\">66\u00a0%");
        assertThat(at(HttpMethod.GET, "shown/deck-app/table?theme=loud").getStatus())
                .isEqualTo(422);
        serve(true);
        assertThat(at(HttpMethod.GET, "shown/deck-app/table").getStatus())
                .as("switched off with the next request")
                .isEqualTo(404);
        Http.Reply signedIn = http.get(mara, "/api/shown/deck-app/table");
        assertThat(signedIn.status()).isEqualTo(404);
    }
}
