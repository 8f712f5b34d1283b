package mellow.server.live;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.concurrent.BlockingQueue;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.concurrent.TimeUnit;
import mellow.core.merge.Arrival;
import mellow.server.MellowServer;
import mellow.server.cell.CellChange;
import mellow.server.cell.CellChange.Action;
import mellow.server.common.Refusal;
import mellow.server.people.Doors;
import mellow.server.support.ServerTest;
import mellow.server.support.TestDatabase;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.boot.builder.SpringApplicationBuilder;
import org.springframework.context.ConfigurableApplicationContext;

/** What happens on one server is heard on another of the same database. */
class LiveTest extends ServerTest {

    private static final int PATIENCE_SECONDS = 10;

    @Autowired
    private LiveService here;

    private static final class Heard implements LiveService.Listener {
        private final BlockingQueue<String> changes = new LinkedBlockingQueue<>();
        private final long person;

        Heard(long person) {
            this.person = person;
        }

        @Override
        public Doors.Seat seat() {
            return new Doors.Seat(person, "");
        }

        @Override
        public void changed(String json) {
            changes.add(json);
        }

        @Override
        public void quiet() {
            // Nothing to hear.
        }

        @Override
        public void missed() {
            changes.add("missed");
        }

        @Override
        public void ending() {
            changes.add("ending");
        }

        String next() throws InterruptedException {
            return changes.poll(PATIENCE_SECONDS, TimeUnit.SECONDS);
        }
    }

    @Test
    void aChangeIsHeardOnTwoServersAndARefusedOneOnNone() throws Exception {
        long mara = ledger.coordinator("mara");
        ledger.takeIn(mara, "Ramp", "key,en,de\nup,Ramp up,\n", Arrival.SETTLED);
        try (ConfigurableApplicationContext second = new SpringApplicationBuilder(MellowServer.class)
                .properties(TestDatabase.access().properties())
                .run("--server.port=0", "--mellow.keep-days=false", "--spring.main.banner-mode=off")) {
            Heard first = new Heard(mara);
            Heard other = new Heard(mara);
            LiveService there = second.getBean(LiveService.class);
            here.listen(first);
            there.listen(other);
            // The second server's ear may still be opening; what it hears first is this, told until it is heard.
            String text = "Oben";
            int version = 0;
            String heard = null;
            while (heard == null) {
                ledger.change(mara, "up", "de", CellChange.text(Action.PENCIL, version++, text + version));
                heard = other.changes.poll(500, TimeUnit.MILLISECONDS);
                assertThat(version).isLessThan(PATIENCE_SECONDS * 2);
            }
            String expected = "{\"table\":" + ledger.table("Ramp") + ",\"entries\":[" + ledger.entry("up")
                    + "],\"languages\":[\"de\"]}";
            assertThat(heard).isEqualTo(expected);
            assertThat(first.next()).isEqualTo(expected);
            first.changes.clear();
            other.changes.clear();
            try {
                ledger.change(mara, "up", "de", CellChange.text(Action.PENCIL, 0, "Too late"));
            } catch (Refusal movedOn) {
                assertThat(movedOn.code()).isEqualTo("cell-moved-on");
            }
            ledger.takeIn(mara, "Ramp", "key,en\nup,Ramp rises\n", Arrival.SETTLED);
            String whole = "{\"table\":" + ledger.table("Ramp") + ",\"entries\":[],\"languages\":[]}";
            assertThat(first.next()).isEqualTo(whole);
            assertThat(other.next()).isEqualTo(whole);
            here.leave(first);
            there.leave(other);
        }
    }
}
