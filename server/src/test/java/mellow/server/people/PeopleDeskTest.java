package mellow.server.people;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import mellow.server.support.Http;
import mellow.server.support.ServerTest;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.http.HttpMethod;

class PeopleDeskTest extends ServerTest {

    @Autowired
    private Http http;

    private long mara;

    @BeforeEach
    void aCoordinator() {
        mara = ledger.coordinator("mara");
    }

    private Http.Reply add(String signIn) throws Exception {
        return http.json(
                mara,
                HttpMethod.POST,
                "/api/people",
                "{\"signIn\":\"" + signIn
                        + "\",\"name\":\"Ilse Radvan\",\"coordinator\":false,\"levels\":{\"pt_BR\":\"contributor\"}}");
    }

    private Http.Reply accept(String token, String password) throws Exception {
        return http.json(mara, HttpMethod.POST, "/api/invitations/" + token, "{\"password\":\"" + password + "\"}");
    }

    @Test
    void anInvitationWorksOnceAndANewerOneReplacesIt() throws Exception {
        Http.Reply added = add("ilse");
        assertThat(added.status()).isEqualTo(201);
        String first = added.body().path("token").asString();
        long ilse = added.body().path("person").asLong();
        String second = http.json(mara, HttpMethod.POST, "/api/people/" + ilse + "/invitation", "{}")
                .body()
                .path("token")
                .asString();
        assertThat(accept(first, "quite-long-enough").code()).isEqualTo("no-such-invitation");
        assertThat(accept(second, "short").code()).isEqualTo("bad-password");
        assertThat(accept(second, "quite-long-enough").status()).isEqualTo(204);
        assertThat(accept(second, "quite-long-enough").code()).isEqualTo("no-such-invitation");
        assertThat(ledger.ask(String.class, "select encode(token_hash, 'hex') from invite limit 1"))
                .as("only a hash is kept")
                .doesNotContain(second);
    }

    @Test
    void rightsAreByTagInCanonicalForm() throws Exception {
        add("ilse");
        Http.Reply all = http.get(mara, "/api/people");
        assertThat(all.body().toString()).contains("\"levels\":{\"pt-BR\":\"contributor\"}");
        assertThat(add("ILSE").status()).isEqualTo(400);
        assertThat(add("ilse").code()).isEqualTo("name-taken");
    }

    @Test
    void whoseAccessEndsIsOutEverywhereAndCanComeBack() throws Exception {
        long oskar = ledger.person("oskar", "de", Level.REVIEWER);
        assertThat(http.json(mara, HttpMethod.POST, "/api/people/" + oskar + "/end", "{}")
                        .status())
                .isEqualTo(204);
        String scope = "{\"name\":\"T\",\"source\":\"en\",\"languages\":[]}";
        assertThat(http.json(oskar, HttpMethod.POST, "/api/tables", scope).code())
                .isEqualTo("signed-out");
        assertThat(http.json(mara, HttpMethod.POST, "/api/people/" + oskar + "/invitation", "{}")
                        .code())
                .isEqualTo("access-ended");
        http.json(mara, HttpMethod.POST, "/api/people/" + oskar + "/resume", "{}");
        assertThat(http.json(oskar, HttpMethod.POST, "/api/tables", scope).code())
                .isEqualTo("coordinator-only");
    }

    @Test
    void theLastCoordinatorStays() throws Exception {
        String plain = "{\"signIn\":\"mara\",\"name\":\"Mara\",\"coordinator\":false,\"levels\":{}}";
        assertThat(http.json(mara, HttpMethod.PUT, "/api/people/" + mara, plain).code())
                .isEqualTo("last-coordinator");
        assertThat(http.json(mara, HttpMethod.POST, "/api/people/" + mara + "/end", "{}")
                        .code())
                .isEqualTo("last-coordinator");
        long second = ledger.coordinator("milo");
        assertThat(http.json(second, HttpMethod.PUT, "/api/people/" + mara, plain)
                        .status())
                .isEqualTo(204);
    }

    @Test
    void twoCoordinatorsWhoEndEachOtherAtOnceCannotBothSucceed() throws Exception {
        long milo = ledger.coordinator("milo");
        ExecutorService together = Executors.newFixedThreadPool(2);
        List<Future<Integer>> both = List.of(
                together.submit(() -> http.json(mara, HttpMethod.POST, "/api/people/" + milo + "/end", "{}")
                        .status()),
                together.submit(() -> http.json(milo, HttpMethod.POST, "/api/people/" + mara + "/end", "{}")
                        .status()));
        int ended = 0;
        for (Future<Integer> one : both) {
            ended += one.get() == 204 ? 1 : 0;
        }
        together.shutdown();
        assertThat(ended).isEqualTo(1);
        assertThat(ledger.ask(Integer.class, "select count(*) from person where coordinator and ended_at is null"))
                .isEqualTo(1);
    }
}
