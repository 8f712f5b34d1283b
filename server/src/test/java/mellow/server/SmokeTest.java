package mellow.server;

import static org.assertj.core.api.Assertions.assertThat;

import mellow.core.merge.TextEffect.Arrival;
import mellow.server.support.ServerTest;
import org.junit.jupiter.api.Test;

class SmokeTest extends ServerTest {

    @Test
    void takesAFileIn() {
        long mara = ledger.coordinator("mara");
        ledger.takeIn(
                mara, "Ramp panel", "key,en,de\nramp.up,Ramp up,Rampe oben\nramp.down,Ramp down,\n", Arrival.SETTLED);
        assertThat(ledger.cell("ramp.up", "de")).isEqualTo("settled Rampe oben");
        assertThat(ledger.cell("ramp.down", "de")).isEqualTo("untranslated");
        assertThat(ledger.wrongCounters()).isZero();
    }
}
