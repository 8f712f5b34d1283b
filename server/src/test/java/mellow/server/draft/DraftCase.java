package mellow.server.draft;

import java.time.Duration;
import java.util.Map;
import java.util.TreeMap;
import mellow.core.language.LanguageTag;
import mellow.core.merge.Arrival;
import mellow.server.cell.CellService;
import mellow.server.fill.FillService;
import mellow.server.fill.FillService.Fill;
import mellow.server.fill.Filling;
import mellow.server.fill.Filling.Chosen;
import mellow.server.fill.Filling.FillOrder;
import mellow.server.fill.Filling.FillReply;
import mellow.server.fill.Filling.ForDraft;
import mellow.server.memory.MemoryForTests;
import mellow.server.run.RunService;
import mellow.server.support.Receiver;
import mellow.server.support.ServerTest;
import mellow.server.table.TableService;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.context.annotation.Import;

/** A table with some of everything that can be drafted, a memory that has a little of it, and a service that answers as a test has it. */
@Import(MemoryForTests.class)
abstract class DraftCase extends ServerTest {

    static final LanguageTag GERMAN = new LanguageTag("de");
    static final Duration LONG = Duration.ofSeconds(30);

    @Autowired
    DraftServices services;

    @Autowired
    DraftWorth worth;

    @Autowired
    Drafting drafting;

    @Autowired
    FillService fill;

    @Autowired
    Filling filling;

    @Autowired
    RunService runs;

    @Autowired
    CellService cells;

    @Autowired
    TableService tables;

    @Autowired
    MemoryForTests memory;

    long mara;

    @BeforeEach
    void tables() {
        mara = ledger.coordinator("mara");
        ledger.takeIn(mara, "Ramp", "key,en,de\nup,Ramp up,Rampe oben\n", Arrival.SETTLED);
        ledger.takeIn(
                mara,
                "Deck",
                """
                key,en,de
                known,Ramp up,
                closed,Deck {0} is closed,
                wait,Please wait,
                branches,"{n, plural, one {# deck} other {# decks}}",
                sign,{0}: {1},
                written,Stop,Halt
                """,
                Arrival.PENCILLED);
        memory.read();
        Drafter.drafts(text -> "de:" + text);
    }

    @AfterEach
    void theMemoryIsNotForOtherTests() {
        memory.forget();
        Receiver.answer(Receiver::well);
    }

    long service() {
        return services.add(mara, Drafter.settings("Draft house"), null);
    }

    FillReply fill(long service) {
        Fill found = fill.find("table=deck&in=de", GERMAN, 100, 0, service);
        return run(order(found, service));
    }

    static FillOrder order(Fill found, long service) {
        return new FillOrder(
                "table=deck&in=de",
                "de",
                found.hits().stream()
                        .map(hit -> new Chosen(hit.entry(), hit.version(), hit.text(), hit.fromEntry(), hit.fromUnit()))
                        .toList(),
                found.rest().stream()
                        .map(one -> new ForDraft(one.entry(), one.version()))
                        .toList(),
                service);
    }

    FillReply run(FillOrder order) {
        long change = filling.start(mara, order);
        runs.await("filling", change, LONG);
        return filling.state(mara, change);
    }

    void undoLast() {
        cells.undo(mara, ledger.ask(Long.class, "select max(change_id) from filling"));
    }

    String text(String key) {
        return ledger.ask(
                String.class,
                "select coalesce((select c.text || ' ' || c.origin from cell c join entry e on e.id = c.entry_id join ledger_table t on t.id = e.table_id where e.key = '"
                        + key + "' and t.slug = 'deck'), '')");
    }

    Map<String, String> failures(FillReply done) {
        Map<String, String> told = new TreeMap<>();
        done.told().forEach(one -> told.put(String.valueOf(one.key()), one.sentence()));
        return told;
    }

    static void await(long millis) {
        try {
            Thread.sleep(millis);
        } catch (InterruptedException stopped) {
            Thread.currentThread().interrupt();
        }
    }
}
