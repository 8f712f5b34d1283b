package mellow.server.language;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.CyclicBarrier;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import mellow.core.language.LanguageTag;
import mellow.core.merge.Arrival;
import mellow.server.intake.IntakeService;
import mellow.server.people.Level;
import mellow.server.support.Http;
import mellow.server.support.ServerTest;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.http.HttpMethod;
import org.springframework.transaction.support.TransactionTemplate;

/** Numbers of languages, which everything refers to. */
class LanguageServiceTest extends ServerTest {

    private static final LanguageTag NOBODYS = new LanguageTag("vo");

    @Autowired
    private Http http;

    @Autowired
    private IntakeService intakes;

    @Autowired
    private LanguageService languages;

    @Autowired
    private TransactionTemplate transaction;

    @AfterEach
    void forget() {
        ledger.run("delete from language where tag in ('vo', 'ie', 'io')");
    }

    @Test
    void aNumberIsNeverTakenBackWithWorkThatFails() {
        Integer told = transaction.execute(status -> {
            int number = languages.number(NOBODYS);
            assertThat(languages.tag(number)).isEqualTo(NOBODYS);
            status.setRollbackOnly();
            return number;
        });
        assertThat(ledger.ask(Integer.class, "select id from language where tag = 'vo'"))
                .isEqualTo(told);
        assertThat(languages.number(NOBODYS)).isEqualTo(told);
    }

    @Test
    void whoBringsTheSameLanguageAtTheSameMomentGetsTheSameNumber() throws Exception {
        LanguageTag tag = new LanguageTag("io");
        CyclicBarrier together = new CyclicBarrier(4);
        ExecutorService people = Executors.newFixedThreadPool(4);
        try {
            Callable<Integer> one = () -> transaction.execute(status -> {
                try {
                    together.await();
                } catch (Exception broken) {
                    throw new IllegalStateException(broken);
                }
                return languages.number(tag);
            });
            List<Future<Integer>> numbers = people.invokeAll(List.of(one, one, one, one));
            List<Integer> all = new ArrayList<>();
            for (Future<Integer> number : numbers) {
                all.add(number.get());
            }
            assertThat(all.stream().distinct()).hasSize(1);
        } finally {
            people.shutdownNow();
        }
    }

    @Test
    void readingAndAskingMakesNoLanguages() throws Exception {
        long mara = ledger.coordinator("mara");
        long lina = ledger.person("lina", "de", Level.CONTRIBUTOR);
        ledger.takeIn(mara, "Ramp", "key,en,de\nup,Ramp up,\n", Arrival.SETTLED);
        long entry = ledger.entry("up");
        int before = ledger.ask(Integer.class, "select count(*) from language");
        for (String path : new String[] {
            "/api/rows?ids=" + entry + "&in=gd",
            "/api/entries/" + entry + "/cells/gd/memory",
            "/api/entries/" + entry + "/cells/gd/story",
            "/api/review?in=gd",
            "/api/contributions?in=gd",
            "/api/scope?table=ramp&in=gd"
        }) {
            assertThat(http.get(mara, path).status()).as(path).isLessThan(500);
        }
        String cells = "{\"action\":\"PENCIL\",\"meaningConfirmed\":false,\"cells\":[{\"entry\":" + entry
                + ",\"language\":\"gd\",\"version\":0,\"text\":\"x\"}]}";
        assertThat(http.json(lina, HttpMethod.POST, "/api/cells/changes", cells).code())
                .isEqualTo("language-not-kept");
        long intake = intakes.upload(
                lina, "Ramp.csv", "key,en,de,gd\nup,Ramp up,Hoch,Suas\n".getBytes(StandardCharsets.UTF_8));
        http.get(lina, "/api/intakes/" + intake + "/preview");
        assertThat(ledger.ask(Integer.class, "select count(*) from language")).isEqualTo(before);
    }
}
