package mellow.server.bundle;

import static org.assertj.core.api.Assertions.assertThat;

import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import mellow.server.launch.PrivateCluster.Access;
import mellow.server.support.FollowingCluster;
import mellow.server.support.TestDatabase;
import org.awaitility.Awaitility;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.test.context.DynamicPropertyRegistry;
import org.springframework.test.context.DynamicPropertySource;
import tools.jackson.databind.JsonNode;

/** Bundles that are read from a real replica: the same texts as without, whether it is there, behind, or gone. */
class BundleReplicaTest extends BundleCase {

    private static final FollowingCluster FOLLOWING = new FollowingCluster(TestDatabase.access());
    private static final Access REPLICA = FOLLOWING.start();

    private String live = "";

    @DynamicPropertySource
    static void replica(DynamicPropertyRegistry registry) {
        REPLICA.replicaProperties().forEach((name, value) -> registry.add(name, () -> value));
    }

    @BeforeEach
    void served() throws Exception {
        serve(true);
        live = "Bearer " + token(true);
    }

    @AfterEach
    void followsAgain() throws Exception {
        FOLLOWING.start();
        onReplica("select pg_wal_replay_resume()");
    }

    private static void onReplica(String statement) throws SQLException {
        try (Connection connection = DriverManager.getConnection(REPLICA.url(), REPLICA.user(), REPLICA.password());
                Statement asked = connection.createStatement()) {
            asked.execute(statement);
        }
    }

    private String text(String asked) throws Exception {
        return body(ask("deck-app/" + asked)).path("texts").path("ramp.up").asString();
    }

    private String liveText(String tag) throws Exception {
        return body(ask("deck-app/" + tag + "?live=true", "Authorization", live))
                .path("texts")
                .path("ramp.up")
                .asString();
    }

    private String standing() throws Exception {
        JsonNode use = http.get(mara, "/api/products/deck-app/bundles/use").body();
        return use.path("replica").path("standing").asString();
    }

    /** Until the replica has what the test did, which takes a moment. */
    private void awaitLiveFromReplica(String expected) {
        Awaitility.await().untilAsserted(() -> {
            assertThat(liveText("de")).isEqualTo(expected);
            assertThat(standing()).isEqualTo("READ");
        });
    }

    @Test
    void whatIsDeliveredIsReadFromTheReplica() throws Exception {
        awaitLiveFromReplica("Rampe hoch");
        assertThat(text("fi")).isEqualTo("Ramppi ylös");
        assertThat(standing()).isEqualTo("READ");
    }

    @Test
    void oneThatIsBehindGivesNobodyOldTexts() throws Exception {
        awaitLiveFromReplica("Rampe hoch");
        onReplica("select pg_wal_replay_pause()");
        settle("ramp.up", "de", "Rampe nach oben");
        assertThat(liveText("de")).isEqualTo("Rampe nach oben");
        assertThat(standing()).isEqualTo("BEHIND");
        deliver(2);
        assertThat(text("de")).isEqualTo("Rampe nach oben");
        assertThat(standing()).isEqualTo("BEHIND");
        // What it has it gives all the same.
        assertThat(text("de?number=1")).isEqualTo("Rampe hoch");
        assertThat(standing()).isEqualTo("READ");
        onReplica("select pg_wal_replay_resume()");
        awaitLiveFromReplica("Rampe nach oben");
    }

    @Test
    void oneThatIsGoneStopsNothingAndIsReadAgainWhenItIsBack() throws Exception {
        awaitLiveFromReplica("Rampe hoch");
        FOLLOWING.stop();
        settle("ramp.up", "de", "Rampe auf");
        assertThat(liveText("de")).isEqualTo("Rampe auf");
        assertThat(standing()).isEqualTo("AWAY");
        deliver(2);
        assertThat(text("de")).isEqualTo("Rampe auf");
        FOLLOWING.start();
        Awaitility.await().atMost(Duration.ofSeconds(30)).untilAsserted(() -> {
            assertThat(liveText("de")).isEqualTo("Rampe auf");
            assertThat(standing()).isEqualTo("READ");
        });
    }

    @Test
    void aTokenThatWasEndedIsRefusedWhateverTheReplicaKnows() throws Exception {
        onReplica("select pg_wal_replay_pause()");
        assertThat(liveText("de")).isEqualTo("Rampe hoch");
        ledger.run("update bundle_token set ended_at = now()");
        assertThat(ask("deck-app/de?live=true", "Authorization", live).getStatus())
                .isEqualTo(401);
    }
}
