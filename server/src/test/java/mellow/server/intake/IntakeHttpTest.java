package mellow.server.intake;

import static org.assertj.core.api.Assertions.assertThat;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.post;

import java.nio.charset.StandardCharsets;
import java.util.List;
import mellow.core.merge.Arrival;
import mellow.server.people.Level;
import mellow.server.support.Http;
import mellow.server.support.ServerTest;
import org.awaitility.Awaitility;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.http.HttpMethod;
import org.springframework.http.MediaType;
import org.springframework.mock.web.MockHttpServletRequest;

class IntakeHttpTest extends ServerTest {

    @Autowired
    private Http http;

    private long mara;

    @BeforeEach
    void someone() {
        mara = ledger.coordinator("mara");
    }

    private Http.Reply upload(String name, String content) throws Exception {
        return http.bytes(mara, "/api/intakes?name=" + name, content.getBytes(StandardCharsets.UTF_8));
    }

    @Test
    void goesAllTheWayAsAScreenDoes() throws Exception {
        Http.Reply uploaded =
                upload("ramp.csv", "Ramp texts;;\nID;English;German\nup;Ramp up;Rampe oben\nup2;Higher;\n");
        assertThat(uploaded.status()).isEqualTo(201);
        String path = "/api/intakes/" + uploaded.body().path("id").asLong();
        assertThat(uploaded.body().path("reading").path("headerRow").asInt()).isEqualTo(1);
        assertThat(uploaded.body().path("reading").path("delimiter").asString()).isEqualTo(";");
        assertThat(uploaded.body().path("options").path("newTable").asString()).isEqualTo("Ramp");

        Http.Reply decided = http.json(
                mara,
                HttpMethod.PUT,
                path + "/options",
                "{\"newTable\":\"Bow ramp\",\"source\":\"en\",\"settlesOwn\":true,\"arrival\":\"PENCILLED\"}");
        assertThat(decided.status()).isEqualTo(200);
        Awaitility.await().until(() -> !http.get(mara, path + "/preview")
                .body()
                .path("preview")
                .isNull());
        Http.Reply lines = http.get(mara, path + "/lines?kind=NEW_ENTRIES&find=RAMP");
        assertThat(lines.body().path("total").asInt()).isEqualTo(1);
        assertThat(lines.body().path("lines").get(0).path("texts").asInt()).isEqualTo(1);
        assertThat(http.get(mara, path + "/preview")
                        .body()
                        .path("preview")
                        .path("pencilled")
                        .asInt())
                .isEqualTo(1);
        assertThat(http.json(mara, HttpMethod.POST, path + "/apply", "").status())
                .isEqualTo(202);
        Awaitility.await()
                .until(() ->
                        http.get(mara, path).body().path("status").asString().equals("applied"));
        assertThat(http.get(mara, path).body().path("tableSlug").asString()).isEqualTo("bow-ramp");
        assertThat(ledger.cell("up", "de")).isEqualTo("pencilled Rampe oben");
        assertThat(http.json(mara, HttpMethod.POST, path + "/apply", "").code()).isEqualTo("intake-closed");
    }

    @Test
    void aChoiceThatCannotBeReadLeavesTheFormerOne() throws Exception {
        String path = "/api/intakes/"
                + upload("a.csv", "key,de\na,Größe\n").body().path("id").asLong();
        String rest = "\"newTable\":\"A\",\"source\":\"de\",\"settlesOwn\":false,\"arrival\":\"SETTLED\"}";
        Http.Reply garbled = http.json(mara, HttpMethod.PUT, path + "/options", "{\"charset\":\"UTF-16LE\"," + rest);
        assertThat(garbled.code()).isEqualTo("unreadable-file");
        assertThat(http.get(mara, path).body().path("reading").path("charset").asString())
                .isEqualTo("UTF-8");
        assertThat(http.json(mara, HttpMethod.PUT, path + "/options", "{\"charset\":\"EBCDIC\"," + rest)
                        .code())
                .isEqualTo("unknown-charset");
        assertThat(http.json(mara, HttpMethod.PUT, path + "/options", "{\"delimiter\":\"\\n\"," + rest)
                        .code())
                .isEqualTo("bad-dialect");
        assertThat(http.json(mara, HttpMethod.PUT, path + "/options", "{\"table\":\"nowhere\"," + rest)
                        .code())
                .isEqualTo("no-such-table");
        assertThat(http.json(mara, HttpMethod.PUT, path + "/options", "{\"charset\":\"UTF-8\"," + rest)
                        .body()
                        .path("reading")
                        .path("rows")
                        .get(1)
                        .get(1)
                        .asString())
                .isEqualTo("Größe");
    }

    @Test
    void refusesWithTheLineConcerned() throws Exception {
        Http.Reply refused = push("open.csv", "key,en\na,x\nb,\"y\n");
        assertThat(refused.status()).isEqualTo(422);
        assertThat(refused.code()).isEqualTo("unreadable-file");
        assertThat(refused.body().path("line").asInt()).isEqualTo(3);
        assertThat(upload("", "key,en\na,x\n").code()).isEqualTo("bad-name");
    }

    @Test
    void aFileThatCannotBeReadAsItSeemsIsShownAndCanBeCorrected() throws Exception {
        Http.Reply shown = upload("deck.csv", "deck.up=Up,\"down\ndeck.shut=Shut\n");
        assertThat(shown.status()).isEqualTo(201);
        String path = "/api/intakes/" + shown.body().path("id").asLong();
        var reading = shown.body().path("reading");
        assertThat(reading.path("unread").asBoolean()).isTrue();
        assertThat(reading.path("format").asString()).isEqualTo("csv");
        assertThat(reading.path("blocked").asString()).contains("deck.csv, line 1");
        assertThat(http.json(mara, HttpMethod.POST, path + "/apply", "").status())
                .isEqualTo(422);
        String rest = ",\"newTable\":\"Deck\",\"source\":\"en\",\"settlesOwn\":false,\"arrival\":\"SETTLED\"}";
        // One thing is corrected after the other, and neither alone may do.
        assertThat(http.json(mara, HttpMethod.PUT, path + "/options", "{\"format\":\"json\"" + rest)
                        .body()
                        .path("reading")
                        .path("unread")
                        .asBoolean())
                .isTrue();
        var mended = http.json(
                mara, HttpMethod.PUT, path + "/options", "{\"format\":\"properties\",\"language\":\"en\"" + rest);
        assertThat(mended.body().path("reading").path("unread").asBoolean()).isFalse();
        assertThat(mended.body().path("reading").path("entries").asInt()).isEqualTo(2);
        assertThat(http.json(mara, HttpMethod.POST, path + "/apply", "").status())
                .isEqualTo(202);
    }

    @Test
    void whatNoDatabaseKeepsIsToldAboutAllTheSame() throws Exception {
        String half = "\\ud83d";
        String nul = "\\u0000";
        String boat = "\\ud83d\\udea2";
        for (String key : List.of("a" + nul + "b", "a" + half + "b", nul.repeat(300), boat.repeat(300) + nul)) {
            Http.Reply shown = upload("deck.json", "{\"" + key + "\": \"Up\"}");
            assertThat(shown.status()).as(key).isEqualTo(201);
            assertThat(shown.body().path("reading").path("unread").asBoolean()).isTrue();
            assertThat(shown.body().path("reading").path("blocked").asString()).startsWith("deck.json, line 1");
        }
        Http.Reply cut = upload("deck.json", "{\"a\": \"" + "x".repeat(499) + boat + "\"}");
        assertThat(cut.body().path("reading").path("rows").get(1).get(1).asString())
                .isEqualTo("x".repeat(499) + "\u2026");
    }

    private Http.Reply push(String name, String content) throws Exception {
        ledger.takeIn(mara, "Ramp", "key,en,de\nup,Up,Rauf\n", Arrival.SETTLED);
        return http.bytes(mara, "/api/intakes?table=ramp&name=" + name, content.getBytes(StandardCharsets.UTF_8));
    }

    @Test
    void refusesBySizeBeforeReading() throws Exception {
        byte[] small = "key,en\n".getBytes(StandardCharsets.UTF_8);
        Http.Reply refused = http.send(
                mara,
                post("/api/intakes?name=big.csv")
                        .contentType(MediaType.APPLICATION_OCTET_STREAM)
                        .content(small)
                        .with(request -> {
                            return new MockHttpServletRequest(request.getServletContext(), "POST", "/api/intakes") {
                                {
                                    setContentType(MediaType.APPLICATION_OCTET_STREAM_VALUE);
                                    setParameter("name", "big.csv");
                                    setContent(small);
                                }

                                @Override
                                public long getContentLengthLong() {
                                    return 250L * 1024 * 1024;
                                }
                            };
                        }));
        assertThat(refused.status()).isEqualTo(413);
        assertThat(refused.sentence())
                .isEqualTo("big.csv: the file has 250 MB; expected at most 200 MB; split it into smaller files.");
    }

    @Test
    void onlyCoordinatorsMakeTables() throws Exception {
        long lina = ledger.person("lina", "de", Level.CONTRIBUTOR);
        long intake = ledger.upload(lina, "new.csv", "key,en,de\na,b,c\n");
        Http.Reply refused = http.json(lina, HttpMethod.POST, "/api/intakes/" + intake + "/apply", "");
        assertThat(refused.status()).isEqualTo(403);
        assertThat(refused.code()).isEqualTo("coordinator-only");
    }
}
