package mellow.server.language;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.CyclicBarrier;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import mellow.core.language.LanguageTag;
import mellow.server.support.ServerTest;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.transaction.support.TransactionTemplate;

/** Numbers of languages, which everything refers to. */
class LanguageServiceTest extends ServerTest {

    private static final LanguageTag NOBODYS = new LanguageTag("vo");

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
}
