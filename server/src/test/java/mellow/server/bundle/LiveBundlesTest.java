package mellow.server.bundle;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import mellow.server.cell.CellChange;
import mellow.server.cell.CellChange.Action;
import mellow.server.entry.EntryService;
import mellow.server.people.Level;
import org.awaitility.Awaitility;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.http.HttpMethod;
import org.springframework.mock.web.MockHttpServletResponse;
import org.springframework.test.web.servlet.MvcResult;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** A product that is open while its texts change. */
class LiveBundlesTest extends BundleCase {

    private static final long PATIENCE_MILLIS = 10_000;

    @Autowired
    private EntryService entries;

    private String live = "";
    private long lina;

    @BeforeEach
    void somebodyWhoTranslatesBesideIt() throws Exception {
        serve(false);
        live = "Bearer " + token(true);
        lina = ledger.person("lina", "de", Level.CONTRIBUTOR);
    }

    private void offer(String key, String text) {
        ledger.change(lina, key, "de", CellChange.text(Action.PUT_FORWARD, 0, text));
    }

    private record Event(String name, JsonNode data) {}

    private static List<Event> events(MockHttpServletResponse stream) throws Exception {
        List<Event> events = new ArrayList<>();
        for (String block : new String(stream.getContentAsByteArray(), StandardCharsets.UTF_8).split("\n\n")) {
            if (block.startsWith("event:")) {
                String[] lines = block.split("\n", 2);
                events.add(new Event(
                        lines[0].substring("event:".length()),
                        JsonMapper.shared().readTree(lines[1].substring("data:".length()))));
            }
        }
        return events;
    }

    private static Event await(MockHttpServletResponse stream, int number) {
        Awaitility.await().until(() -> events(stream).size() >= number);
        try {
            return events(stream).get(number - 1);
        } catch (Exception unreadable) {
            throw new AssertionError(unreadable);
        }
    }

    @Test
    void whatIsOnlyOfferedIsToldAndMarked() throws Exception {
        offer("stop", "Halt");
        JsonNode told = body(ask("deck-app/de?live=true&offered=true", "Authorization", live));
        assertThat(told.path("texts").path("stop").asString()).isEqualTo("Halt");
        assertThat(told.path("offered").toString()).isEqualTo("[\"stop\"]");
        JsonNode inForce = body(ask("deck-app/de?live=true", "Authorization", live));
        assertThat(inForce.path("texts").path("stop").asString()).isEqualTo("Stop");
        assertThat(inForce.has("offered")).isFalse();
        assertThat(ask("deck-app/de?offered=true", "Authorization", live).getStatus())
                .isEqualTo(422);
        ledger.change(mara, "stop", "fi", CellChange.text(Action.PENCIL, 0, "Seis"));
        assertThat(body(ask("deck-app/fi?live=true&offered=true", "Authorization", live))
                        .path("texts")
                        .path("stop")
                        .asString())
                .isEqualTo("Seis");
    }

    @Test
    void allIsToldFirstAndThenOnlyWhatChanges() throws Exception {
        MockHttpServletResponse stream = ask("deck-app/de/events?offered=true", "Authorization", live);
        assertThat(stream.getContentType()).startsWith("text/event-stream");
        Event all = await(stream, 1);
        assertThat(all.name).isEqualTo("bundle");
        assertThat(all.data.path("texts").size()).isEqualTo(3);
        offer("stop", "Halt");
        Event offered = await(stream, 2);
        assertThat(offered.name).isEqualTo("change");
        assertThat(offered.data.path("texts").toString()).isEqualTo("{\"stop\":\"Halt\"}");
        assertThat(offered.data.path("offered").toString()).isEqualTo("[\"stop\"]");
        settle("stop", "de", "Halt");
        Event settled = await(stream, 3);
        // The same words, but in force now.
        assertThat(settled.data.path("texts").toString()).isEqualTo("{\"stop\":\"Halt\"}");
        assertThat(settled.data.path("offered").size()).isZero();
        // Of another language nothing is told.
        settle("stop", "fi", "Seis");
        settle("ramp.up", "de", "Rampe auf");
        assertThat(await(stream, 4).data.path("texts").toString()).isEqualTo("{\"ramp.up\":\"Rampe auf\"}");
        entries.remove(mara, List.of(ledger.entry("ramp.down")));
        assertThat(await(stream, 5).data.path("gone").toString()).isEqualTo("[\"ramp.down\"]");
    }

    @Test
    void twoWhoListenToTheSameAreToldTheSame() throws Exception {
        MockHttpServletResponse one = ask("deck-app/de/events", "Authorization", live);
        MockHttpServletResponse other = ask("deck-app/2/events", "Authorization", live);
        await(one, 1);
        await(other, 1);
        settle("stop", "de", "Halt");
        assertThat(await(one, 2).data).isEqualTo(await(other, 2).data);
    }

    @Test
    void whoeverMayNotListenIsRefusedAndWhoMayNoMoreIsEnded() throws Exception {
        String usual = "Bearer " + token(false);
        assertThat(ask("deck-app/de/events").getStatus()).isEqualTo(401);
        assertThat(ask("deck-app/de/events", "Authorization", usual).getStatus())
                .isEqualTo(403);
        assertThat(ask("nothing/de/events", "Authorization", live).getStatus()).isEqualTo(401);
        serve(true);
        assertThat(ask("deck-app/de/events").getStatus())
                .as("open, but not for what was not delivered")
                .isEqualTo(403);
        MvcResult stream = asked(HttpMethod.GET, "bundles/deck-app/de/events", "Authorization", live);
        await(stream.getResponse(), 1);
        ledger.run("update bundle_token set ended_at = now() where live");
        // It fails where the stream goes on.
        stream.getAsyncResult(PATIENCE_MILLIS);
        assertThat(ask("deck-app/de/events", "Authorization", live).getStatus()).isEqualTo(401);
    }

    @Test
    void aTokenHasSoManyStreamsAndNoMore() throws Exception {
        for (int i = 0; i < LiveBundles.MOST_OF_ONE; i++) {
            assertThat(ask("deck-app/de/events", "Authorization", live).getStatus())
                    .isEqualTo(200);
        }
        assertThat(ask("deck-app/de/events", "Authorization", live).getStatus()).isEqualTo(422);
        assertThat(ask("deck-app/de/events", "Authorization", "Bearer " + token(true))
                        .getStatus())
                .isEqualTo(200);
    }

    @Test
    void whoeverTranslatesBesideItNeedsNoDelivery() throws Exception {
        http.json(mara, HttpMethod.POST, "/api/products/deck-app/deliveries/1/recall", "{\"reason\":\"wrong\"}");
        JsonNode list = body(ask("deck-app", "Authorization", live));
        assertThat(list.path("delivery").isNull()).isTrue();
        assertThat(list.path("languages").get(1).path("tag").asString()).isEqualTo("de");
        assertThat(body(ask("deck-app/de?live=true", "Authorization", live))
                        .path("texts")
                        .size())
                .isEqualTo(3);
        assertThat(ask("deck-app", "Authorization", "Bearer " + token(false)).getStatus())
                .isEqualTo(404);
    }
}
