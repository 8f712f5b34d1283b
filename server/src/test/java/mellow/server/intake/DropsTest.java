package mellow.server.intake;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.charset.StandardCharsets;
import java.util.List;
import mellow.server.common.Refusal;
import mellow.server.people.Level;
import mellow.server.run.RunService.Progress;
import mellow.server.support.Http;
import mellow.server.support.ServerTest;
import mellow.server.upkeep.Upkeep;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** Files that come together: who may bring them, under which names, twice, and how long nobody's are kept. */
class DropsTest extends ServerTest {

    @Autowired
    private Upkeep upkeep;

    @Autowired
    private Drops drops;

    @Autowired
    private Http http;

    private long mara;

    @BeforeEach
    void someone() {
        mara = ledger.coordinator("mara");
    }

    @Test
    void whoHasNoRightBringsNothing() throws Exception {
        long oskar = ledger.person("oskar", "de", Level.READER);
        assertThatThrownBy(() -> drops.begin(oskar)).isInstanceOf(Refusal.class);
        assertThat(http.bytes(oskar, "/api/intakes/sets", new byte[0]).code()).isEqualTo("no-right");
        long lina = ledger.person("lina", "de", Level.CONTRIBUTOR);
        long drop = drops.begin(lina);
        drops.add(lina, drop, "a.csv", "key,en\na,b\n".getBytes(StandardCharsets.UTF_8));
        List<Runnable> others = List.of(
                () -> drops.add(mara, drop, "b.csv", new byte[0]),
                () -> drops.sort(mara, drop),
                () -> drops.reply(mara, drop),
                () -> drops.takeAlone(mara, drop, "a.csv"));
        for (Runnable other : others) {
            assertThatThrownBy(other::run).isInstanceOf(Refusal.class).hasMessageContaining("not here any more");
        }
    }

    @Test
    void namesThatLeadOutOfTheFolderAreRefused() {
        long drop = drops.begin(mara);
        for (String name : List.of(
                "../up.csv", "a/../../b.csv", "..\\up.csv", " ", "a\u0000.csv", "x".repeat(1_001), "a\ud800.csv")) {
            assertThatThrownBy(() -> drops.add(mara, drop, name, new byte[0]))
                    .as(name)
                    .isInstanceOf(Refusal.class);
        }
    }

    @Test
    void aLostReplyDoesNoHarm() {
        long drop = drops.begin(mara);
        byte[] content = "key,en\na,b\n".getBytes(StandardCharsets.UTF_8);
        drops.add(mara, drop, "a.csv", content);
        drops.add(mara, drop, "a.csv", content);
        drops.sort(mara, drop, Progress.UNWATCHED);
        DropReply first = drops.reply(mara, drop);
        DropReply second = drops.sort(mara, drop);
        assertThat(first.files()).isEqualTo(1);
        assertThat(second.intakes()).isEqualTo(first.intakes());
        assertThat(ledger.ask(Integer.class, "select count(*) from intake")).isEqualTo(1);
        assertThatThrownBy(() -> drops.add(mara, drop, "b.csv", content)).hasMessageContaining("sorted already");
    }

    @Test
    void whatNobodyWantedIsForgottenAfterADay() {
        long drop = drops.begin(mara);
        drops.add(mara, drop, "a.bin", new byte[] {1, 2});
        drops.sort(mara, drop, Progress.UNWATCHED);
        ledger.run("update dropped set created_at = created_at - interval '25 hours'");
        assertThatThrownBy(() -> drops.reply(mara, drop)).isInstanceOf(Refusal.class);
        ledger.run("update stored_file set created_at = created_at - interval '25 hours'");
        upkeep.clear();
        assertThat(ledger.ask(Integer.class, "select count(*) from stored_file"))
                .isZero();
    }
}
