package mellow.server.bundle;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayInputStream;
import java.time.Clock;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.zip.GZIPInputStream;
import mellow.core.bundle.Brotli;
import mellow.core.merge.Arrival;
import mellow.server.product.ProductService.Definition;
import mellow.server.product.ProductService.Selected;
import mellow.server.support.Http;
import org.awaitility.Awaitility;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.http.HttpMethod;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.mock.web.MockHttpServletResponse;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Running products fetch their texts, as programs and pages do. */
class BundleHttpTest extends BundleCase {

    @Autowired
    private JdbcClient jdbc;

    @Test
    void theListSaysWhatThereIsAndEachBundleHasItsTexts() throws Exception {
        serve(true);
        JsonNode list = body(ask("deck-app"));
        assertThat(list.path("start").asString()).isEqualTo("en");
        assertThat(list.path("delivery").asInt()).isEqualTo(1);
        assertThat(list.path("languages").get(2).path("name").asString()).isEqualTo("suomi");
        assertThat(list.path("languages").get(2).path("direction").asString()).isEqualTo("ltr");
        assertThat(list.path("languages").get(2).path("numbering").asString()).isEqualTo("latn");
        MockHttpServletResponse finnish = ask("deck-app/fi");
        assertThat(finnish.getHeader("ETag"))
                .isEqualTo('"' + list.path("languages").get(2).path("hash").asString() + '"');
        JsonNode texts = body(finnish);
        assertThat(texts.path("texts").toString())
                .isEqualTo("{\"ramp.up\":\"Ramppi ylös\",\"ramp.down\":\"Rampe runter\",\"stop\":\"Stop\"}");
        assertThat(texts.path("borrowed").toString()).isEqualTo("{\"ramp.down\":\"de\",\"stop\":\"en\"}");
        assertThat(body(ask("deck-app/fi?whole=false")).path("texts").size()).isEqualTo(1);
        assertThat(body(ask("deck-app/de?form=nested"))
                        .path("texts")
                        .path("ramp")
                        .path("up")
                        .asString())
                .isEqualTo("Rampe hoch");
    }

    /** The source stands in where nothing else does, whether the product has it among its languages or not. */
    @Test
    void theSourceStandsInAlsoWhereItIsNoLanguageOfTheProduct() throws Exception {
        products.create(
                mara,
                new Definition(
                        0,
                        "Shore app",
                        "site",
                        List.of("deck"),
                        List.of(new Selected("de", 1), new Selected("fi", 2)),
                        "de"));
        recipe("shore-app");
        deliver("shore-app", 1);
        http.json(
                mara,
                HttpMethod.PUT,
                "/api/products/shore-app/bundles",
                "{\"served\":true,\"open\":true,\"origins\":[],\"shown\":false,\"version\":0}");
        JsonNode german = body(ask("shore-app/de"));
        assertThat(german.path("texts").toString())
                .isEqualTo("{\"ramp.up\":\"Rampe hoch\",\"ramp.down\":\"Rampe runter\",\"stop\":\"Stop\"}");
        assertThat(german.path("borrowed").toString()).isEqualTo("{\"stop\":\"en\"}");
        assertThat(body(ask("shore-app/en")).path("language").asString())
                .as("what is no language of the product means the one it starts in")
                .isEqualTo("de");
        assertThat(http.get(mara, "/api/products/shore-app/deliveries")
                        .body()
                        .path(0)
                        .path("changed")
                        .asInt())
                .as("texts of its own languages")
                .isEqualTo(3);
    }

    @ParameterizedTest
    @CsvSource({
        "3, fi",
        "03, fi",
        "77, en",
        "de-AT, de",
        "de_CH, de",
        "xx-nothing, en",
        "'*?languages=sv;q=0.9,%20fi;q=0.5,de;q=0.1', fi",
        "'sv,de', de",
        "ferry.example, en",
        "ferry.example?path=/de/deck, de",
        "...., en"
    })
    void whatIsAskedForMeansALanguage(String asked, String language) throws Exception {
        serve(true);
        assertThat(body(ask("deck-app/" + asked)).path("language").asString()).isEqualTo(language);
    }

    @Test
    void aReadersListMayComeInItsHeader() throws Exception {
        serve(true);
        MockHttpServletResponse german = ask("deck-app/*", "Accept-Language", "sv, de-CH;q=0.8, fi;q=0.1");
        assertThat(body(german).path("language").asString()).isEqualTo("de");
        assertThat(german.getHeaders("Vary")).contains("Accept-Language");
        assertThat(body(ask("deck-app/*")).path("language").asString()).isEqualTo("en");
    }

    @Test
    void whatIsThereAlreadyIsNotSentAgain() throws Exception {
        serve(true);
        MockHttpServletResponse first = ask("deck-app/de", "Accept-Encoding", "deflate, gzip, br;q=0");
        assertThat(first.getHeader("Content-Encoding")).isEqualTo("gzip");
        assertThat(first.getHeader("Cache-Control")).isEqualTo("public, max-age=60, stale-while-revalidate=600");
        assertThat(first.getHeaders("Vary")).contains("Origin", "Authorization", "Accept-Encoding");
        byte[] unpacked = new GZIPInputStream(new ByteArrayInputStream(first.getContentAsByteArray())).readAllBytes();
        MockHttpServletResponse plain = ask("deck-app/de", "Accept-Encoding", "gzip;q=0");
        assertThat(unpacked).isEqualTo(plain.getContentAsByteArray());
        String tag = String.valueOf(plain.getHeader("ETag"));
        assertThat(first.getHeader("ETag")).isEqualTo(tag.substring(0, tag.length() - 1) + "-gzip\"");
        MockHttpServletResponse smallest = ask("deck-app/de", "Accept-Encoding", "gzip, BR;q=0.1");
        assertThat(smallest.getHeader("Content-Encoding")).isEqualTo("br");
        assertThat(smallest.getHeader("ETag")).isEqualTo(tag.substring(0, tag.length() - 1) + "-br\"");
        assertThat(smallest.getContentAsByteArray())
                .isEqualTo(Brotli.packed(plain.getContentAsByteArray()).orElseThrow());
        assertThat(ask("deck-app/de").getHeader("Content-Encoding")).isNull();
        for (String known :
                List.of(tag, "W/" + tag, "\"x\", " + tag, "*", first.getHeader("ETag"), smallest.getHeader("ETag"))) {
            MockHttpServletResponse again = ask("deck-app/de", "If-None-Match", known);
            assertThat(again.getStatus()).as(known).isEqualTo(304);
            assertThat(again.getContentAsByteArray()).isEmpty();
            assertThat(again.getHeader("ETag")).isEqualTo(tag);
        }
        assertThat(ask("deck-app/de", "If-None-Match", "\"x\"").getStatus()).isEqualTo(200);
        MockHttpServletResponse head = ask(HttpMethod.HEAD, "deck-app/de");
        assertThat(head.getContentAsByteArray()).isEmpty();
        assertThat(head.getHeader("ETag")).isEqualTo(tag);
        settle("stop", "de", "Halt");
        assertThat(ask("deck-app/de", "If-None-Match", tag).getStatus())
                .as("not delivered yet")
                .isEqualTo(304);
        deliver(2);
        assertThat(ask("deck-app/de", "If-None-Match", tag).getStatus()).isEqualTo(200);
    }

    @Test
    void sinceADeliveryOnlyWhatChangedIsToldAndARecalledOneIsNoMore() throws Exception {
        serve(true);
        settle("stop", "de", "Halt");
        ledger.takeIn(mara, "Deck", "key,en\nbell,Bell\n", Arrival.SETTLED);
        deliver(2);
        JsonNode change = body(ask("deck-app/de?since=1"));
        assertThat(change.path("texts").toString()).isEqualTo("{\"stop\":\"Halt\",\"bell\":\"Bell\"}");
        assertThat(change.path("borrowed").toString()).isEqualTo("{\"bell\":\"en\"}");
        assertThat(change.path("gone").size()).isZero();
        JsonNode back = body(ask("deck-app/de?since=2&number=1"));
        assertThat(back.path("gone").toString()).isEqualTo("[\"bell\"]");
        assertThat(body(ask("deck-app/de?since=2")).path("texts").size()).isZero();
        http.json(mara, HttpMethod.POST, "/api/products/deck-app/deliveries/2/recall", "{\"reason\":\"wrong\"}");
        assertThat(body(ask("deck-app/de")).path("delivery").asInt()).isEqualTo(1);
        assertThat(ask("deck-app/de?number=2").getStatus()).isEqualTo(404);
        assertThat(ask("deck-app/de?since=9").getStatus()).isEqualTo(404);
        assertThat(ask("deck-app/de?form=flat&number=x").getStatus()).isEqualTo(400);
        assertThat(ask("deck-app/de?form=round").getStatus()).isEqualTo(422);
    }

    @Test
    void onlyALiveTokenSeesWhatWasNotDelivered() throws Exception {
        serve(false);
        String live = "Bearer " + token(true);
        String usual = "Bearer " + token(false);
        settle("stop", "de", "Halt");
        MockHttpServletResponse now = ask("deck-app/de?live=true", "Authorization", live);
        assertThat(body(now).path("texts").path("stop").asString()).isEqualTo("Halt");
        assertThat(now.getHeader("Cache-Control")).isEqualTo("private, no-cache");
        assertThat(ask("deck-app/de?live=true", "Authorization", usual).getStatus())
                .isEqualTo(403);
        assertThat(body(ask("deck-app/de", "Authorization", usual))
                        .path("texts")
                        .path("stop")
                        .asString())
                .isEqualTo("Stop");
    }

    /** Whoever may not have it learns nothing: unknown, not served, without, wrong, foreign, expired and ended are one. */
    @Test
    void whoeverMayNotAskLearnsNothing() throws Exception {
        MockHttpServletResponse notServed = ask("deck-app/de");
        serve(false);
        String good = token(false);
        assertThat(ask("deck-app/de", "Authorization", "bearer " + good).getStatus())
                .isEqualTo(200);
        products.create(
                mara, new Definition(0, "Other", "app", List.of("deck"), List.of(new Selected("de", null)), null));
        http.json(
                mara,
                HttpMethod.PUT,
                "/api/products/other/bundles",
                "{\"served\":true,\"open\":false,\"origins\":[],\"shown\":false,\"version\":0}");
        List<MockHttpServletResponse> refused = new java.util.ArrayList<>(List.of(
                notServed,
                ask("deck-app/de"),
                ask("nothing/de"),
                ask("nothing"),
                ask("deck-app/de", "Authorization", "Bearer bundle-guess"),
                ask("deck-app/de", "Authorization", "Basic " + good),
                ask("deck-app/de", "Authorization", ""),
                ask("other/de", "Authorization", "Bearer " + good)));
        ledger.run("update bundle_token set expires_at = now() - interval '1 second'");
        refused.add(ask("deck-app/de", "Authorization", "Bearer " + good));
        ledger.run("update bundle_token set expires_at = now() + interval '1 day'");
        assertThat(ask("deck-app/de", "Authorization", "Bearer " + good).getStatus())
                .isEqualTo(200);
        long id = ledger.ask(Long.class, "select id from bundle_token");
        http.json(mara, HttpMethod.DELETE, "/api/products/deck-app/bundles/tokens/" + id, "");
        refused.add(ask("deck-app/de", "Authorization", "Bearer " + good));
        for (MockHttpServletResponse one : refused) {
            assertThat(one.getStatus()).isEqualTo(401);
            assertThat(one.getContentAsString()).isEqualTo(refused.get(0).getContentAsString());
            assertThat(one.getHeader("WWW-Authenticate")).isEqualTo("Bearer");
            assertThat(one.getHeader("ETag")).isNull();
            assertThat(one.getHeader("Set-Cookie")).isNull();
        }
    }

    @Test
    void guessesAreToldToWaitAndThoseWhoMayAskAreNot() throws Exception {
        serve(false);
        String good = "Bearer " + token(false);
        int waiting = 0;
        for (int i = 0; i < 3 * BundleAccess.MOST_REFUSED; i++) {
            MockHttpServletResponse one = ask("deck-app/de", "Authorization", "Bearer bundle-" + i);
            if (one.getStatus() == 429) {
                assertThat(Integer.parseInt(String.valueOf(one.getHeader("Retry-After"))))
                        .isBetween(1, 60);
                waiting++;
            }
        }
        assertThat(waiting).isGreaterThanOrEqualTo(BundleAccess.MOST_REFUSED);
        MockHttpServletResponse served = ask("deck-app/de", "Authorization", good);
        assertThat(served.getStatus()).isEqualTo(200);
        assertThat(served.getHeader("RateLimit-Limit")).isEqualTo("600");
        assertThat(Integer.parseInt(String.valueOf(served.getHeader("RateLimit-Remaining"))))
                .isLessThan(600);
    }

    @Test
    void pagesOfTheOriginsThatAreSetMayReadTheAnswer() throws Exception {
        serve(false, "HTTPS://Ferry.Example:443/", "http://localhost:5000");
        MockHttpServletResponse before = ask(
                HttpMethod.OPTIONS,
                "deck-app/de",
                "Origin",
                "https://ferry.example",
                "Access-Control-Request-Method",
                "GET");
        assertThat(before.getStatus()).isEqualTo(204);
        assertThat(before.getHeader("Access-Control-Allow-Origin")).isEqualTo("https://ferry.example");
        assertThat(before.getHeader("Access-Control-Allow-Headers")).contains("Authorization");
        assertThat(ask("deck-app/de", "Origin", "http://localhost:5000").getHeader("Access-Control-Allow-Origin"))
                .as("a refusal can be read, too")
                .isEqualTo("http://localhost:5000");
        for (String other : List.of("https://ferry.example.evil", "http://ferry.example", "null")) {
            assertThat(ask(HttpMethod.OPTIONS, "deck-app/de", "Origin", other).getHeader("Access-Control-Allow-Origin"))
                    .as(other)
                    .isNull();
        }
        serve(true, "*");
        assertThat(ask("deck-app/de", "Origin", "https://any.example").getHeader("Access-Control-Allow-Origin"))
                .isEqualTo("*");
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "ferry.example",
                "ftp://ferry.example",
                "https://",
                "https://a/b",
                "https://u@a",
                "javascript:1",
                "https://a b",
                "https://a\u0000"
            })
    void whatIsNoOriginIsRefused(String origin) throws Exception {
        Http.Reply reply = http.json(
                mara,
                HttpMethod.PUT,
                "/api/products/deck-app/bundles",
                JsonMapper.shared()
                        .writeValueAsString(Map.of(
                                "served",
                                true,
                                "open",
                                true,
                                "origins",
                                List.of(origin),
                                "shown",
                                false,
                                "version",
                                0)));
        assertThat(reply.status()).isEqualTo(422);
    }

    @Test
    void ofTwoWhoChangeItTheSecondIsTold() throws Exception {
        serve(true);
        String body = "{\"served\":false,\"open\":false,\"origins\":[],\"shown\":false,\"version\":0}";
        assertThat(http.json(mara, HttpMethod.PUT, "/api/products/deck-app/bundles", body)
                        .code())
                .isEqualTo("changed-meanwhile");
        assertThat(ask("deck-app/de").getStatus()).isEqualTo(200);
        assertThat(http.json(
                                mara,
                                HttpMethod.POST,
                                "/api/products/deck-app/bundles/tokens",
                                "{\"name\":\"x\",\"live\":false,\"days\":0}")
                        .code())
                .isEqualTo("bad-days");
    }

    @Test
    void thatSomebodyMayAskIsRememberedForAMomentAndThatSomebodyMayNotIsNot() throws Exception {
        serve(false);
        BundleAccess remembering = new BundleAccess(jdbc, Clock.systemUTC(), 600, Duration.ofSeconds(1));
        String secret = token(false);
        ledger.run("update bundle_token set ended_at = now()");
        assertThat(remembering.look("deck-app", secret, address).granted()).isEmpty();
        ledger.run("update bundle_token set ended_at = null");
        assertThat(remembering.look("deck-app", secret, address).granted()).isPresent();
        assertThat(remembering.look("deck-app", secret + "x", address).granted())
                .isEmpty();
        assertThat(remembering.look("other", secret, address).granted()).isEmpty();
        ledger.run("update bundle_token set ended_at = now()");
        Awaitility.await().untilAsserted(() -> assertThat(
                        remembering.look("deck-app", secret, address).granted())
                .isEmpty());
    }
}
