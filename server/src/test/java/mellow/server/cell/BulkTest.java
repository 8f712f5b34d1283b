package mellow.server.cell;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import mellow.core.merge.Arrival;
import mellow.core.text.Shape;
import mellow.server.cell.CellChange.Action;
import mellow.server.cell.CellChange.How;
import mellow.server.cell.CellChanged.Many;
import mellow.server.common.Refusal;
import mellow.server.entry.Description;
import mellow.server.entry.EntryService;
import mellow.server.entry.EntryService.Rewritten;
import mellow.server.entry.EntryUndo;
import mellow.server.people.Level;
import mellow.server.support.ServerTest;
import mellow.server.support.Statements;
import org.assertj.core.api.Assertions;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** Many cells and entries at once: how much the database is asked, and that people who do it at the same time do not stop each other. */
class BulkTest extends ServerTest {

    private static final int MANY = 500;
    /** A dozen for the five hundred, and two dozen once for a change of any size: rights, tables, what texts are looked at by, counters, story, live. */
    private static final int FEW = 36;

    @Autowired
    private CellService cells;

    @Autowired
    private EntryService entries;

    @Autowired
    private EntryUndo undoing;

    private long mara;
    private long oskar;
    private long lina;

    @BeforeEach
    void aTable() {
        mara = ledger.coordinator("mara");
        oskar = ledger.person("oskar", "de", Level.REVIEWER);
        lina = ledger.person("lina", "de", Level.CONTRIBUTOR);
        ledger.takeIn(mara, "Ramp", table("Ramp"), Arrival.SETTLED);
        ledger.takeIn(mara, "Quay", "key,en,de\nq.1,Quay,Kai\n", Arrival.SETTLED);
    }

    private static String table(String word) {
        return "key,en,de\n"
                + IntStream.range(0, MANY)
                        .mapToObj(i -> "r." + i + "," + word + " " + i + ",\n")
                        .collect(Collectors.joining());
    }

    private ManyChanges many(Action action, String text, int version) {
        List<ManyChanges.One> all = ledger.entries("Ramp").stream()
                .map(entry -> new ManyChanges.One(entry, "de", version, text + entry, null, null))
                .toList();
        return new ManyChanges(action, all, action == Action.RETURN ? "too long" : null, false, How.TYPED);
    }

    private void isCheap(String what, Runnable change) {
        List<String> sent = Statements.of(change);
        assertThat(sent).as(what).hasSizeLessThanOrEqualTo(FEW).isNotEmpty();
    }

    @Test
    void aDozenStatementsPerFiveHundredCells() {
        List<Many> done = new ArrayList<>();
        isCheap("pencil", () -> done.add(cells.changeMany(lina, many(Action.PENCIL, "a", 0))));
        isCheap("offer", () -> done.add(cells.changeMany(lina, many(Action.OFFER, "b", 1))));
        isCheap("put forward over an offer", () -> done.add(cells.changeMany(lina, many(Action.PUT_FORWARD, "c", 2))));
        isCheap("settle", () -> done.add(cells.changeMany(oskar, many(Action.SETTLE, "", 3))));
        isCheap("undo", () -> done.add(cells.undo(oskar, done.get(3).change()).orElseThrow()));
        isCheap("return", () -> done.add(cells.changeMany(oskar, many(Action.RETURN, "", 5))));
        ledger.allowOwn("Ramp", "de");
        isCheap("put in force at once", () -> done.add(cells.changeMany(oskar, many(Action.PUT_FORWARD, "d", 6))));
        assertThat(done).allSatisfy(one -> assertThat(one.changed()).isEqualTo(MANY));
    }

    @Test
    void aDozenStatementsPerFiveHundredEntries() {
        List<Long> ids = ledger.entries("Ramp");
        List<EntryService.Changed> done = new ArrayList<>();
        isCheap("rewrite", () -> done.add(entries.rewriteMany(mara, rewritten(ids, 0, "Ramp, rewritten "), true)));
        isCheap("undo", () -> done.add(undoing.undo(mara, done.get(0).change()).orElseThrow()));
        isCheap("describe", () -> done.add(entries.describeMany(mara, ids, "Deck", List.of("wet"), null)));
        isCheap(
                "undo of that",
                () -> done.add(undoing.undo(mara, done.get(2).change()).orElseThrow()));
        isCheap("move", () -> done.add(entries.move(mara, ids, ledger.slug("Quay"), null, false)));
        isCheap(
                "undo of that",
                () -> done.add(undoing.undo(mara, done.get(4).change()).orElseThrow()));
        isCheap("remove", () -> done.add(entries.remove(mara, ids)));
        isCheap("put back", () -> done.add(entries.putBack(mara, ids)));
        assertThat(done).allSatisfy(one -> assertThat(one.entries()).hasSize(MANY));
    }

    private static List<Rewritten> rewritten(List<Long> ids, int version, String source) {
        return ids.stream()
                .map(id -> new Rewritten(id, version, new TreeMap<>(Map.of("other", source + id))))
                .toList();
    }

    /** Sources are rewritten while texts of the same language are answered: counters are locked last, so nobody waits in a circle. */
    @Test
    void rewritingBesideAnsweringNeverEndsInADeadlock() throws Exception {
        ledger.ask(String.class, "select pg_stat_reset()::text");
        ledger.allowOwn("Ramp", "de");
        List<Long> ids = ledger.entries("Ramp");
        Random random = new Random(7);
        ExecutorService people = Executors.newFixedThreadPool(8);
        try {
            List<Callable<Integer>> rounds = new ArrayList<>();
            for (int i = 0; i < 400; i++) {
                int from = random.nextInt(MANY - 12);
                List<Long> some = ids.subList(from, from + 12);
                int round = i;
                rounds.add(
                        i % 2 == 0
                                ? () -> rewrite(some, "Ramp in round " + round)
                                : () -> answer(some, "Rampe in Runde " + round));
            }
            int changed = 0;
            for (Future<Integer> one : people.invokeAll(rounds)) {
                changed += one.get();
            }
            assertThat(changed).isPositive();
        } finally {
            people.shutdown();
        }
        assertThat(ledger.ask(Long.class, "select deadlocks from pg_stat_database where datname = current_database()"))
                .isZero();
    }

    private int rewrite(List<Long> some, String source) {
        List<Rewritten> wanted = some.stream()
                .map(id -> new Rewritten(
                        id,
                        ledger.ask(Integer.class, "select version from entry where id = " + id),
                        new TreeMap<>(Map.of("other", source))))
                .toList();
        try {
            return entries.rewriteMany(mara, wanted, true).entries().size();
        } catch (Refusal movedOn) {
            return 0;
        }
    }

    private int answer(List<Long> some, String text) {
        List<ManyChanges.One> wanted = some.stream()
                .map(id -> new ManyChanges.One(
                        id,
                        "de",
                        ledger.ask(Integer.class, "select coalesce(max(version), 0) from cell where entry_id = " + id),
                        text,
                        null,
                        null))
                .toList();
        return cells.changeMany(oskar, new ManyChanges(Action.PUT_FORWARD, wanted, null, false, How.TYPED))
                .changed();
    }

    @Test
    void theUndoOfManyRenamedEntriesRefusesAKeyThatWasGivenAway() {
        long one = ledger.entry("r.1");
        EntryService.Changed removed = entries.remove(mara, List.of(one));
        entries.create(
                mara,
                ledger.slug("Ramp"),
                Shape.PLAIN,
                new Description("r.1", "", "", "", "", 0, 0, 0, List.of(), true),
                new TreeMap<>(Map.of("other", "Another ramp")),
                null);
        Assertions.assertThatThrownBy(() -> undoing.undo(mara, removed.change()))
                .isInstanceOf(Refusal.class)
                .hasMessageContaining("r.1");
    }
}
