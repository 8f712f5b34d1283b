package mellow.server.intake;

import static org.assertj.core.api.Assertions.assertThat;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.get;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.post;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.put;

import java.nio.charset.StandardCharsets;
import mellow.core.merge.Arrival;
import mellow.server.support.Http;
import mellow.server.support.ServerTest;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.http.HttpMethod;
import org.springframework.http.MediaType;

/** Programs with tokens: they take files in and send them out, as far as their token says, and nothing else. */
class ProgramsTest extends ServerTest {

    private static final String FIRST =
            "key,en,de\nup,Ramp up,Rampe oben\ndown,Ramp down,Rampe unten\nmid,Halfway,Halb\n";
    private static final String SECOND = "key,en,de\nup,Ramp fully up,Rampe oben\ndown,Ramp down,Klappe unten\n";

    @Autowired
    private Http http;

    private long mara;

    @BeforeEach
    void tables() {
        mara = ledger.coordinator("mara");
        ledger.takeIn(mara, "Ramp", "ramp.csv", FIRST.getBytes(StandardCharsets.UTF_8), Arrival.SETTLED);
        ledger.takeIn(
                mara,
                "Deck",
                "deck.csv",
                FIRST.replaceAll("(up|down|mid),", "deck.$1,").getBytes(StandardCharsets.UTF_8),
                Arrival.SETTLED);
    }

    private String token(String rest) throws Exception {
        Http.Reply made =
                http.json(mara, HttpMethod.POST, "/api/tokens", "{\"name\":\"build\",\"days\":30," + rest + "}");
        assertThat(made.status()).isEqualTo(201);
        return made.body().path("secret").asString();
    }

    private Http.Reply push(String token, String query, String content) throws Exception {
        return http.anonymous(post("/api/intakes?name=ramp.csv&" + query)
                .contentType(MediaType.APPLICATION_OCTET_STREAM)
                .content(content.getBytes(StandardCharsets.UTF_8))
                .header("Authorization", "Bearer " + token));
    }

    private Http.Reply export(String token, String table) throws Exception {
        return http.anonymous(get("/api/tables/" + table + "/export/fresh?format=json&in=de")
                .header("Authorization", "Bearer " + token));
    }

    @Test
    void pushesAFileByAPolicyAndSaysWhatWasDone() throws Exception {
        String token = token("\"takesIn\":true,\"sendsOut\":false");
        Http.Reply dry = push(token, "table=ramp&dryRun=true", SECOND);
        assertThat(dry.status()).isEqualTo(200);
        assertThat(dry.body().path("stale").path("de").asInt()).isEqualTo(1);
        assertThat(ledger.cell("mid", "de")).isEqualTo("settled Halb");
        assertThat(ledger.ask(Integer.class, "select count(*) from intake")).isEqualTo(2);

        Http.Reply done = push(token, "table=ramp&meaning=FIX&gone=KEEP&arrival=PENCILLED", SECOND);
        assertThat(done.body().path("stale").size()).isZero();
        assertThat(done.body().path("offered").asInt()).isEqualTo(1);
        assertThat(
                        ledger.ask(
                                String.class,
                                "select string_agg(e.source, ',' order by position) from entry e join ledger_table t on t.id = e.table_id where t.slug = 'ramp' and e.removed_at is null"))
                .isEqualTo("Ramp fully up,Ramp down,Halfway");
        assertThat(push(token, "table=ramp", SECOND).body().path("unchanged").asInt())
                .isEqualTo(2);
    }

    @Test
    void pullsAFile() throws Exception {
        Http.Reply reply = export(token("\"takesIn\":false,\"sendsOut\":true"), "ramp");
        assertThat(reply.status()).isEqualTo(200);
        assertThat(new String(reply.bytes(), StandardCharsets.UTF_8)).contains("Rampe oben");
    }

    @Test
    void doesNothingThatTheTokenDoesNotSay() throws Exception {
        String takes = token("\"takesIn\":true,\"sendsOut\":false,\"table\":\"ramp\"");
        assertThat(push(takes, "table=ramp&dryRun=true", SECOND).status()).isEqualTo(200);
        assertThat(push(takes, "table=deck", SECOND).code()).isEqualTo("not-for-this-token");
        assertThat(push(takes, "", SECOND).status()).isEqualTo(403);
        assertThat(export(takes, "ramp").status()).isEqualTo(403);
        Http.Reply people = http.anonymous(get("/api/people").header("Authorization", "Bearer " + takes));
        assertThat(people.code()).isEqualTo("not-for-this-token");
        assertThat(people.sentence()).isEqualTo("This token may take files in in ramp, and nothing else.");
        String sends = token("\"takesIn\":false,\"sendsOut\":true,\"table\":\"deck\"");
        assertThat(export(sends, "deck").status()).isEqualTo(200);
        assertThat(export(sends, "ramp").status()).isEqualTo(403);
    }

    @Test
    void deliversAProductByATokenForAllTablesAndByNoOther() throws Exception {
        String sends = token("\"takesIn\":false,\"sendsOut\":true");
        String one = token("\"takesIn\":false,\"sendsOut\":true,\"table\":\"ramp\"");
        String takes = token("\"takesIn\":true,\"sendsOut\":false");
        for (String path : new String[] {
            "/api/products/app/deliveries",
            "/api/products/app/deliveries/run",
            "/api/products/app/deliveries/try",
            "/api/products/app/deliveries/1/archive"
        }) {
            assertThat(http.anonymous(get(path).header("Authorization", "Bearer " + sends))
                            .status())
                    .as(path)
                    .isEqualTo(404);
            assertThat(http.anonymous(get(path).header("Authorization", "Bearer " + one))
                            .status())
                    .as(path)
                    .isEqualTo(403);
            assertThat(http.anonymous(get(path).header("Authorization", "Bearer " + takes))
                            .status())
                    .as(path)
                    .isEqualTo(403);
        }
        for (String path : new String[] {
            "/api/products/app/delivery",
            "/api/products/app",
            "/api/products/app/deliveries/1/recall",
            "/api/products/app/recipes"
        }) {
            assertThat(http.anonymous(get(path).header("Authorization", "Bearer " + sends))
                            .status())
                    .as(path)
                    .isEqualTo(403);
        }
    }

    @Test
    void anUnknownExpiredOrEndedTokenOpensNothing() throws Exception {
        assertThat(push("mellow-guess", "table=ramp", SECOND).code()).isEqualTo("unknown-token");
        String token = token("\"takesIn\":true,\"sendsOut\":false");
        ledger.ask(
                Integer.class,
                "with moved as (update token set expires_at = now() - interval '1 minute' returning 1) select count(*)::int from moved");
        assertThat(push(token, "table=ramp", SECOND).status()).isEqualTo(401);
        String second = token("\"takesIn\":true,\"sendsOut\":false");
        long id = http.get(mara, "/api/tokens").body().get(0).path("id").asLong();
        assertThat(http.json(mara, HttpMethod.DELETE, "/api/tokens/" + id, "").status())
                .isEqualTo(204);
        assertThat(push(second, "table=ramp", SECOND).status()).isEqualTo(401);
        assertThat(http.json(mara, HttpMethod.DELETE, "/api/tokens/" + id, "").status())
                .isEqualTo(404);
    }

    @Test
    void refusesAPolicyThatIsNone() throws Exception {
        String token = token("\"takesIn\":true,\"sendsOut\":true");
        assertThat(push(token, "table=ramp&conflicts=REMOVE", SECOND).code()).isEqualTo("no-such-choice");
        assertThat(push(token, "table=ramp", "key,en\na,\"x").code()).isEqualTo("unreadable-file");
        assertThat(http.json(
                                mara,
                                HttpMethod.POST,
                                "/api/tokens",
                                "{\"name\":\" \",\"takesIn\":true,\"sendsOut\":true,\"days\":3}")
                        .code())
                .isEqualTo("bad-name");
        assertThat(http.json(
                                mara,
                                HttpMethod.POST,
                                "/api/tokens",
                                "{\"name\":\"x\",\"takesIn\":true,\"sendsOut\":true,\"days\":9999}")
                        .code())
                .isEqualTo("bad-days");
        assertThat(http.json(
                                mara,
                                HttpMethod.POST,
                                "/api/tokens",
                                "{\"name\":\"x\",\"takesIn\":false,\"sendsOut\":false,\"days\":3}")
                        .code())
                .isEqualTo("no-use");
    }

    @Test
    void aBuildLooksThroughItsCodeWithATokenThatTakesInForEveryTable() throws Exception {
        String takes = token("\"takesIn\":true,\"sendsOut\":false");
        String one = token("\"takesIn\":true,\"sendsOut\":false,\"table\":\"ramp\"");
        String sends = token("\"takesIn\":false,\"sendsOut\":true");
        for (String path : new String[] {"", "/settings", "/keys", "/missing", "/patch", "/scans/1"}) {
            String at = "/api/products/nothing/code" + path;
            assertThat(http.anonymous(get(at).header("Authorization", "Bearer " + takes))
                            .status())
                    .as(path)
                    .isEqualTo(404);
            assertThat(http.anonymous(get(at).header("Authorization", "Bearer " + one))
                            .code())
                    .isEqualTo("not-for-this-token");
            assertThat(http.anonymous(get(at).header("Authorization", "Bearer " + sends))
                            .code())
                    .isEqualTo("not-for-this-token");
        }
        assertThat(http.anonymous(get("/api/products/nothing/code/texts").header("Authorization", "Bearer " + takes))
                        .code())
                .isEqualTo("not-for-this-token");
        assertThat(http.anonymous(put("/api/products/nothing/code/settings")
                                .header("Authorization", "Bearer " + takes)
                                .contentType(MediaType.APPLICATION_JSON)
                                .content("{}"))
                        .code())
                .isEqualTo("not-for-this-token");
    }

    @Test
    void aFolderNeedsATokenForEveryTableUnlessItNamesTheOne() throws Exception {
        String one = token("\"takesIn\":true,\"sendsOut\":false,\"table\":\"ramp\"");
        assertThat(folder(one, "").code()).isEqualTo("not-for-this-token");
        assertThat(folder(one, "?table=deck").code()).isEqualTo("not-for-this-token");
        assertThat(folder(token("\"takesIn\":false,\"sendsOut\":true"), "").status())
                .isEqualTo(403);
        // Let in, and then told that there is nothing in it.
        assertThat(folder(one, "?table=ramp").status()).isEqualTo(422);
        assertThat(folder(token("\"takesIn\":true,\"sendsOut\":false"), "").status())
                .isEqualTo(422);
    }

    private Http.Reply folder(String token, String query) throws Exception {
        return http.anonymous(post("/api/intakes/sets" + query)
                .contentType(MediaType.APPLICATION_OCTET_STREAM)
                .content(new byte[0])
                .header("Authorization", "Bearer " + token));
    }
}
