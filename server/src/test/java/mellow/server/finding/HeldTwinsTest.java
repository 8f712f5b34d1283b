package mellow.server.finding;

import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import java.time.Duration;
import java.util.List;
import java.util.concurrent.CompletableFuture;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import mellow.core.merge.Arrival;
import mellow.server.check.MaskKeeper;
import mellow.server.support.ServerTest;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Two who change texts of one source at once: neither sees what the other has not committed yet, so the second waits, and what is kept of both is right
 * afterwards.
 */
class HeldTwinsTest extends ServerTest {

    /** More than are held one by one. */
    private static final int SOURCES = 300;

    private static final String WAITING =
            "select count(*)::int from pg_locks l join pg_database d on d.oid = l.database where l.locktype = 'advisory' and not l.granted and d.datname = current_database()";

    @Autowired
    private MaskKeeper masks;

    @Autowired
    private PlatformTransactionManager transactions;

    private int german;

    @BeforeEach
    void everySourceTwice() {
        String rows = IntStream.range(0, SOURCES)
                .boxed()
                .flatMap(i ->
                        Stream.of("first." + i, "second." + i).map(key -> key + ",Deck " + i + ",Deck Nr. " + i + "\n"))
                .collect(Collectors.joining());
        ledger.takeIn(ledger.coordinator("mara"), "Decks", "key,en,de\n" + rows, Arrival.PENCILLED);
        german = ledger.ask(Integer.class, "select id from language where tag = 'de'");
    }

    @ParameterizedTest
    @CsvSource({"1, 1", "300, 1", "1, 300", "300, 300"})
    void whoeverComesSecondWaitsAndSeesWhatTheFirstWrote(int first, int second) {
        CompletableFuture<Void> other = new CompletableFuture<>();
        new TransactionTemplate(transactions).executeWithoutResult(status -> {
            say("first", first);
            CompletableFuture.runAsync(() ->
                            new TransactionTemplate(transactions).executeWithoutResult(inner -> say("second", second)))
                    .whenComplete((done, failed) -> {
                        if (failed == null) {
                            other.complete(null);
                        } else {
                            other.completeExceptionally(failed);
                        }
                    });
            await().until(() -> other.isDone() || ledger.ask(Integer.class, WAITING) > 0);
            assertThat(other).as("it waits").isNotDone();
        });
        assertThat(other).succeedsWithin(Duration.ofSeconds(20));
        assertThat(ledger.ask(Integer.class, "select count(*)::int from finding_mask where twin is not null"))
                .as("only a source of which one place was changed is said differently, in both places")
                .isEqualTo(2 * Math.abs(first - second));
        // The story knows nothing of what was said here.
        ledger.run("update cell set text = replace(text, ' neu', '')");
        ledger.run("delete from finding_mask");
    }

    private void say(String which, int sources) {
        String keys = IntStream.range(0, sources)
                .mapToObj(i -> "'" + which + "." + i + "'")
                .collect(Collectors.joining(","));
        String ours = "(select id from entry where key in (" + keys + "))";
        ledger.run("update cell set text = text || ' neu' where entry_id in " + ours);
        List<Long> entries = Stream.of(ledger.ask(
                                String.class, "select string_agg(id::text, ',') from entry where key in (" + keys + ")")
                        .split(","))
                .map(Long::valueOf)
                .toList();
        masks.ofTexts(entries, List.of(german));
    }
}
