package mellow.server.memory;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.lang.reflect.Proxy;
import java.util.List;
import java.util.Random;
import java.util.function.Supplier;
import mellow.core.language.LanguageTag;
import mellow.core.merge.Arrival;
import mellow.server.cell.CellChange;
import mellow.server.cell.CellChange.Action;
import mellow.server.entry.EntryService;
import mellow.server.live.LiveChange;
import mellow.server.live.LiveService;
import mellow.server.people.Level;
import mellow.server.support.Http;
import mellow.server.support.ServerTest;
import mellow.server.table.TableService;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.simple.JdbcClient;

/** What the index finds is what the database finds, whatever happened. */
class MemoryKeeperTest extends ServerTest {

    private static final LanguageTag GERMAN = new LanguageTag("de");

    @Autowired
    private MemoryKeeper keeper;

    @Autowired
    private MemoryService memory;

    @Autowired
    private EntryService entries;

    @Autowired
    private TableService tables;

    @Autowired
    private LiveService live;

    @Autowired
    private JdbcClient jdbc;

    @Autowired
    private Http http;

    private long mara;

    @BeforeEach
    void aTable() {
        mara = ledger.coordinator("mara");
        ledger.takeIn(
                mara,
                "Ramp",
                """
                key,en,de
                asked,Ramp blocked by vehicle,
                door,Door blocked by vehicle,Tor durch Fahrzeug blockiert
                lift,Lift blocked by vehicle,Lift durch Fahrzeug blockiert
                ramp,Ramp blocked by the vehicle,Rampe blockiert
                """,
                Arrival.SETTLED);
        ledger.takeIn(mara, "Draft", "key,en,de\ndraft,Ramp blocked by vehicle,Entwurf\n", Arrival.PENCILLED);
        ledger.allowOwn("Ramp", "de");
    }

    @AfterEach
    void theIndexIsNotForOtherTests() {
        keeper.missed();
    }

    private List<String> hits() {
        return memory.hits(ledger.entry("asked"), GERMAN).stream()
                .map(hit -> hit.percent() + " " + hit.text())
                .toList();
    }

    /** What is found with the index, which is what is found without it. */
    private List<String> found(LiveChange... changes) {
        for (LiveChange change : changes) {
            keeper.changed(change);
        }
        keeper.bringUpToDate();
        assertThat(keeper.state().ready()).isTrue();
        List<String> indexed = hits();
        keeper.missed();
        assertThat(keeper.state().ready()).isFalse();
        assertThat(indexed).isEqualTo(hits());
        keeper.bringUpToDate();
        assertThat(hits()).as("built anew").isEqualTo(indexed);
        return indexed;
    }

    private LiveChange of(String key) {
        return new LiveChange(0, List.of(ledger.entry(key)), List.of());
    }

    @Test
    void findsWhatTheDatabaseFinds() {
        assertThat(found())
                .containsExactly(
                        "85 Rampe blockiert", "82 Tor durch Fahrzeug blockiert", "82 Lift durch Fahrzeug blockiert");
        assertThat(keeper.state().units()).isEqualTo(3);
    }

    @Test
    void followsWhatIsSettledClearedRewrittenAndRemoved() {
        found();
        ledger.change(mara, "door", "de", new CellChange(Action.CLEAR, 1, null, null, null, false, null));
        assertThat(found(of("door"))).doesNotContain("82 Tor durch Fahrzeug blockiert");
        ledger.takeIn(mara, "Draft", "key,en,de\ndraft,Ramp blocked by vehicle,Rampe gesperrt\n", Arrival.SETTLED);
        assertThat(found(of("draft"))).contains("100 Rampe gesperrt");
        LiveChange lift = of("lift");
        entries.remove(mara, List.of(ledger.entry("lift")));
        assertThat(found(lift)).containsExactly("100 Rampe gesperrt", "85 Rampe blockiert");
        ledger.takeIn(mara, "Ramp", "key,en\nramp,Something else altogether\n", Arrival.SETTLED);
        assertThat(found(of("ramp"))).containsExactly("100 Rampe gesperrt");
    }

    @Test
    void aTableOfWhichMuchChangedIsReadAgain() {
        found();
        long table = tables.find("ramp").id();
        StringBuilder file = new StringBuilder("key,en,de\n");
        for (int i = 0; i < 700; i++) {
            file.append("k")
                    .append(i)
                    .append(",Ramp blocked by vehicle ")
                    .append(i)
                    .append(",Rampe ")
                    .append(i)
                    .append('\n');
        }
        ledger.takeIn(mara, "Ramp", file.toString(), Arrival.SETTLED);
        keeper.changed(new LiveChange(table, List.of(), List.of("de")));
        keeper.bringUpToDate();
        assertThat(keeper.state().units()).isEqualTo(703);
        assertThat(memory.hits(ledger.entry("k7"), GERMAN)).first().satisfies(hit -> assertThat(hit.percent())
                .isGreaterThan(95));
    }

    @Test
    void isNotReadyWhileItCannotRead() {
        MemoryKeeper cut = new MemoryKeeper(failing(), live, Long.MAX_VALUE);
        assertThatThrownBy(cut::bringUpToDate).isInstanceOf(IllegalStateException.class);
        assertThat(cut.state().ready()).isFalse();
        assertThat(cut.search(1, "plain", 1, "x", 50, 9))
                .as("whoever searches asks the database")
                .isNull();
    }

    private static JdbcClient failing() {
        return (JdbcClient) Proxy.newProxyInstance(
                MemoryKeeperTest.class.getClassLoader(),
                new Class<?>[] {JdbcClient.class},
                (proxy, method, arguments) -> {
                    throw new IllegalStateException("the line is down");
                });
    }

    @Test
    void givesUpWhatNeedsMoreThanItMay() {
        MemoryKeeper small = new MemoryKeeper(jdbc, live, 10);
        small.bringUpToDate();
        assertThat(small.state().tooLarge()).isTrue();
        assertThat(small.state().ready()).isFalse();
        assertThat(small.state().units()).isZero();
        small.changed(of("door"));
        small.bringUpToDate();
        assertThat(small.state().units()).as("nothing comes back in by the way").isZero();
    }

    @Test
    void isWhatItWouldBeBuiltAnewAfterAnySequenceOfChanges() {
        Random random = new Random(5);
        List<String> keys = List.of("asked", "door", "lift", "ramp");
        Supplier<String> text = () -> "Text " + random.nextInt(1000);
        for (int i = 0; i < 40; i++) {
            String key = keys.get(random.nextInt(keys.size()));
            int version = ledger.ask(
                    Integer.class, "select coalesce(max(version), 0) from cell where entry_id = " + ledger.entry(key));
            boolean clear = random.nextInt(3) == 0 && version > 0;
            boolean empty = ledger.ask(
                            Long.class,
                            "select count(*) from cell where text is not null and entry_id = " + ledger.entry(key))
                    == 0;
            if (clear && empty) {
                continue;
            }
            ledger.change(
                    mara,
                    key,
                    "de",
                    new CellChange(
                            clear ? Action.CLEAR : Action.PUT_FORWARD,
                            version,
                            clear ? null : text.get(),
                            null,
                            null,
                            false,
                            null));
            keeper.changed(of(key));
            if (random.nextInt(3) == 0) {
                found();
            }
        }
        found();
    }

    @Test
    void onlyACoordinatorLooksAtIt() throws Exception {
        long kaja = ledger.person("kaja", "de", Level.REVIEWER);
        assertThat(http.get(mara, "/api/memory").status()).isEqualTo(200);
        assertThat(http.get(kaja, "/api/memory").status()).isEqualTo(403);
    }

    @Test
    void hitsAreAsTheyAreNow() {
        found();
        ledger.change(mara, "door", "de", new CellChange(Action.CLEAR, 1, null, null, null, false, null));
        assertThat(hits()).as("before the index heard of it").noneMatch(hit -> hit.contains("Tor"));
        List<MemoryHit> all = memory.hits(ledger.entry("asked"), GERMAN);
        assertThat(all).hasSize(2);
    }
}
