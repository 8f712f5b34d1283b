package mellow.server.memory;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.tuple;

import java.io.ByteArrayOutputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import mellow.core.language.LanguageTag;
import mellow.core.merge.Arrival;
import mellow.server.fill.FillService;
import mellow.server.fill.FillService.FillHit;
import mellow.server.fill.Filling;
import mellow.server.fill.Filling.Chosen;
import mellow.server.fill.Filling.FillOrder;
import mellow.server.live.LiveChange;
import mellow.server.memory.MemoryUnits.Side;
import mellow.server.memory.MemoryUnits.UnitReply;
import mellow.server.memory.Shelves.Shelf;
import mellow.server.memory.Shelves.ShelfFilled;
import mellow.server.memory.Shelves.ShelfPair;
import mellow.server.people.Level;
import mellow.server.run.RunService;
import mellow.server.support.Http;
import mellow.server.support.ServerTest;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.context.annotation.Import;

/** Memories from elsewhere: taken in and out, asked beside the ledger's own, mended by hand, and never brought back by the file that they came from. */
@Import(MemoryForTests.class)
class ShelvesTest extends ServerTest {

    private static final LanguageTag ENGLISH = new LanguageTag("en");
    private static final LanguageTag GERMAN = new LanguageTag("de");

    @Autowired
    private Shelves shelves;

    @Autowired
    private MemoryUnits units;

    @Autowired
    private MemoryService memory;

    @Autowired
    private MemoryKeeper keeper;

    @Autowired
    private MemoryForTests reader;

    @Autowired
    private FillService fill;

    @Autowired
    private Filling filling;

    @Autowired
    private RunService runs;

    @Autowired
    private Http http;

    private long mara;

    @BeforeEach
    void tables() {
        mara = ledger.coordinator("mara");
        ledger.takeIn(
                mara,
                "Ramp",
                "key,en,de\nup,Ramp up,Rampe oben\ndown,Ramp down,\nplain,Mind the gap,\n",
                Arrival.SETTLED);
        reader.read();
    }

    @AfterEach
    void theMemoryIsNotForOtherTests() {
        reader.forget();
    }

    private static String tmx(String units) {
        return "<?xml version=\"1.0\"?><!DOCTYPE tmx SYSTEM \"tmx14.dtd\"><tmx version=\"1.4\"><header srclang=\"en-US\" segtype=\"sentence\" datatype=\"xml\" adminlang=\"en\" o-tmf=\"x\" creationtool=\"other\" creationtoolversion=\"1\"/><body>"
                + units + "</body></tmx>";
    }

    private static String unit(String source, String german) {
        return "<tu><tuv xml:lang=\"en-US\"><seg>" + source + "</seg></tuv><tuv xml:lang=\"de-DE\"><seg>" + german
                + "</seg></tuv></tu>";
    }

    private ShelfFilled shelf(String name, String units) {
        ShelfFilled filled = shelves.add(mara, name, name + ".tmx", tmx(units).getBytes(StandardCharsets.UTF_8));
        follow();
        return filled;
    }

    /** What a server does when it hears of shelves. */
    private void follow() {
        keeper.changed(new LiveChange(MemoryKeeper.SHELVES, List.of(), List.of()));
        keeper.bringUpToDate();
    }

    private List<MemoryHit> hits(String key) {
        return memory.hits(ledger.entry(key), GERMAN);
    }

    private List<UnitReply> found(Side side, String words) {
        return units.find(ENGLISH, GERMAN, side, words).units();
    }

    @Test
    void aFileOfAnotherProgramIsAskedBesideTheLedger() {
        ShelfFilled filled = shelf(
                "Old programs",
                unit("Ramp down", "Rampe herunter")
                        + unit("Ramp down", "Rampe runter")
                        + "<tu><tuv xml:lang=\"de-DE\"><seg>ohne Quelle</seg></tuv></tu>");
        assertThat(filled.units()).isEqualTo(2);
        assertThat(filled.fresh()).as("one source may have several texts").isEqualTo(2);
        assertThat(filled.problems()).singleElement().asString().contains("Old programs.tmx, line 1");
        assertThat(shelves.all(mara))
                .extracting(Shelf::name, Shelf::pairs)
                .containsExactly(tuple("Old programs", List.of(new ShelfPair("en", "de", 2))));
        assertThat(hits("down"))
                .extracting(MemoryHit::percent, MemoryHit::table, MemoryHit::text, MemoryHit::entry)
                .contains(
                        tuple(100, "Old programs", "Rampe herunter", 0L),
                        tuple(100, "Old programs", "Rampe runter", 0L));
        reader.forget();
        assertThat(hits("down"))
                .as("from the database, as long as the index is not ready")
                .extracting(MemoryHit::text)
                .contains("Rampe herunter", "Rampe runter");
    }

    @Test
    void taughtTwiceNothingIsNewAndWhatWasMendedOrRemovedStays() {
        String both = unit("Mind the gap", "Vorsicht Lücke") + unit("Ramp down", "Rampe runter");
        long id = shelf("Signs", both).id();
        UnitReply gap = found(Side.SOURCE, "gap").get(0);
        units.mend(mara, gap.unit(), gap.version(), "Achtung Spalt");
        assertThatThrownBy(() -> units.mend(mara, gap.unit(), gap.version(), "Zu spät"))
                .hasMessageContaining("meanwhile");
        UnitReply down = found(Side.SOURCE, "Ramp DOWN").get(0);
        assertThat(units.remove(mara, List.of(down.unit()), true)).isEqualTo(1);
        follow();
        assertThat(hits("plain")).extracting(MemoryHit::text).containsExactly("Achtung Spalt");
        assertThat(hits("down")).extracting(MemoryHit::text).doesNotContain("Rampe runter");
        ShelfFilled again = shelves.addTo(mara, id, "Signs.tmx", tmx(both).getBytes(StandardCharsets.UTF_8));
        assertThat(again.fresh()).isZero();
        follow();
        assertThat(hits("plain")).extracting(MemoryHit::text).containsExactly("Achtung Spalt");
        assertThat(units.remove(mara, List.of(down.unit()), false)).isEqualTo(1);
        follow();
        assertThat(hits("down")).extracting(MemoryHit::text).contains("Rampe runter");
    }

    @Test
    void rankAndDeductionSayWhatComesFirst() {
        long first = shelf("First", unit("Mind the gap", "Eins")).id();
        long second = shelf("Second", unit("Mind the gap", "Zwei")).id();
        assertThat(fill()).extracting(FillHit::text).containsExactly("Eins");
        shelves.change(mara, first, "First", 9, 0);
        assertThat(fill()).extracting(FillHit::text).containsExactly("Zwei");
        shelves.change(mara, second, "Second", 1, 20);
        assertThat(hits("plain"))
                .extracting(MemoryHit::percent, MemoryHit::text)
                .containsExactly(tuple(100, "Eins"), tuple(80, "Zwei"));
        shelves.remove(mara, first, true);
        follow();
        assertThat(hits("plain")).extracting(MemoryHit::text).containsExactly("Zwei");
        shelves.remove(mara, first, false);
        follow();
        assertThat(hits("plain")).extracting(MemoryHit::text).containsExactly("Eins", "Zwei");
    }

    private List<FillHit> fill() {
        return fill.find("table=ramp&in=de", GERMAN, 90, 0, null).hits().stream()
                .filter(hit -> hit.key().equals("plain"))
                .toList();
    }

    @Test
    void whatIsSettledInTheLedgerComesBeforeAllShelves() {
        shelf("Other", unit("Ramp up", "Rampe hinauf"));
        ledger.takeIn(mara, "Deck", "key,en,de\nsame,Ramp up,\n", Arrival.PENCILLED);
        FillHit hit = fill.find("table=deck&in=de", GERMAN, 100, 0, null).hits().get(0);
        assertThat(hit.text()).isEqualTo("Rampe oben");
        assertThat(hit.fromEntry()).isEqualTo(ledger.entry("up"));
        assertThat(hit.fromUnit()).isZero();
    }

    @Test
    void whoUsedWhatIsCounted() {
        shelf("Signs", unit("Mind the gap", "Vorsicht Lücke"));
        FillHit hit = fill().get(0);
        long change = filling.start(
                mara,
                new FillOrder(
                        "",
                        "de",
                        List.of(new Chosen(hit.entry(), hit.version(), hit.text(), hit.fromEntry(), hit.fromUnit())),
                        List.of(),
                        null));
        runs.await("filling", change, java.time.Duration.ofSeconds(20));
        assertThat(found(Side.TEXT, "lücke").get(0).used()).isEqualTo(1);
        assertThat(shelves.all(mara).get(0).used()).isEqualTo(1);
    }

    @Test
    void wordsAreFoundOnEitherSideAndSimilarSourcesByTheIndex() {
        shelf("Signs", unit("Mind the gap", "Vorsicht 100 % Lücke_x"));
        assertThat(found(Side.SOURCE, "RAMP")).extracting(UnitReply::text).containsExactly("Rampe oben");
        assertThat(found(Side.TEXT, "oben")).extracting(UnitReply::place).containsExactly("up");
        assertThat(found(Side.TEXT, "100 %")).hasSize(1);
        assertThat(found(Side.TEXT, "100 _")).as("no pattern").isEmpty();
        assertThat(found(Side.TEXT, "\\")).isEmpty();
        assertThat(found(Side.SIMILAR, "Mind this gap"))
                .extracting(UnitReply::shelf)
                .containsExactly("Signs");
        assertThat(units.find(GERMAN, ENGLISH, Side.SOURCE, "Ramp").units()).isEmpty();
    }

    @Test
    void theSameContextIsMarkedAndComesFirst() {
        ledger.takeIn(
                mara,
                "One",
                "key,en,de\na,Before,Vorher\nb,Mind the gap,Eins\nc,After,Nachher\nd,Mind the gap,Zwei\n",
                Arrival.SETTLED);
        ledger.takeIn(mara, "Two", "key,en,de\nx,Before,\ny,Mind the gap,\nz,After,\n", Arrival.PENCILLED);
        reader.read();
        assertThat(hits("y"))
                .extracting(MemoryHit::text, MemoryHit::sameContext)
                .containsExactly(tuple("Eins", true), tuple("Zwei", false));
        shelf(
                "Signs",
                "<tu tuid=\"y\"><tuv xml:lang=\"en\"><seg>Mind the gap</seg></tuv><tuv xml:lang=\"de\"><seg>Drei</seg></tuv></tu>");
        assertThat(hits("y"))
                .extracting(MemoryHit::text, MemoryHit::sameContext)
                .contains(tuple("Drei", true));
    }

    @Test
    void goesOutAndComesInAgainWithItsCodes() {
        String codes = unit(
                "Press <bpt i=\"1\">&lt;b&gt;</bpt>Stop<ept i=\"1\">&lt;/b&gt;</ept> &amp; wait",
                "<bpt i=\"1\">&lt;b&gt;</bpt>Halt<ept i=\"1\">&lt;/b&gt;</ept> drücken &amp; warten");
        long id = shelf(
                        "Coded",
                        codes
                                + "<tu changeid=\"OTTO\" changedate=\"20250131T120000Z\"><note>On the gate</note><prop type=\"x-context\">gate</prop>"
                                + "<tuv xml:lang=\"en\"><seg>Stop</seg></tuv><tuv xml:lang=\"de\"><seg>Halt</seg></tuv><tuv xml:lang=\"fi\"><seg>Seis</seg></tuv></tu>")
                .id();
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        shelves.write(mara, id, out);
        String written = out.toString(StandardCharsets.UTF_8);
        assertThat(written)
                .contains("<bpt i=\"1\">&lt;b&gt;</bpt>Stop<ept i=\"1\">&lt;/b&gt;</ept> &amp; wait")
                .contains("changeid=\"OTTO\"", "changedate=\"20250131T120000Z\"", "<note>On the gate</note>", ">gate<");
        ShelfFilled again = shelves.addTo(mara, id, "Coded.tmx", out.toByteArray());
        assertThat(again.units()).isEqualTo(3);
        assertThat(again.fresh()).isZero();
        ByteArrayOutputStream twice = new ByteArrayOutputStream();
        shelves.write(
                mara, shelves.add(mara, "Copy", "Copy.tmx", out.toByteArray()).id(), twice);
        assertThat(twice.toString(StandardCharsets.UTF_8)).isEqualTo(written);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            textBlock =
                    """
            <html></html>                                             | the document is <html>
            <tmx version="1.4"><body></body></tmx>                    | has no unit
            <tmx><body><tu><tuv xml:lang="en"/></tu></body></tmx>     | a <tuv> without a <seg>
            <tmx><body><tu>                                           | bad.tmx, line 1
            no file                                                   | bad.tmx, line 1
            """)
    void whatIsNoMemoryIsRefusedAndNothingIsKept(String file, String why) {
        assertThatThrownBy(() -> shelves.add(mara, "Bad", "bad.tmx", file.getBytes(StandardCharsets.UTF_8)))
                .hasMessageContaining(why);
        assertThat(shelves.all(mara)).isEmpty();
    }

    @Test
    void onlyCoordinatorsBringAndTakeOut() throws Exception {
        long id = shelf("Signs", unit("Stop", "Halt")).id();
        long wanda = ledger.person("wanda", "de", Level.REVIEWER);
        byte[] file = tmx(unit("Go", "Los")).getBytes(StandardCharsets.UTF_8);
        assertThat(http.bytes(wanda, "/api/memory/shelves?name=x&file=x.tmx", file)
                        .status())
                .isEqualTo(403);
        assertThat(http.bytes(wanda, "/api/memory/shelves/" + id + "/files?file=x.tmx", file)
                        .status())
                .isEqualTo(403);
        assertThat(http.bytes(mara, "/api/memory/shelves?name=x&file=../x.tmx", file)
                        .status())
                .isEqualTo(201);
        Http.Reply out = http.get(mara, "/api/memory/shelves/" + id + "/tmx");
        assertThat(new String(out.bytes(), StandardCharsets.UTF_8)).contains("<seg>Halt</seg>");
    }

    @Test
    void namesAreToldApart() {
        shelf("Signs", unit("Stop", "Halt"));
        assertThatThrownBy(() -> shelf("signs", unit("Stop", "Halt"))).hasMessage("Another shelf is called “signs”.");
        assertThatThrownBy(() -> shelf(" ", unit("Stop", "Halt"))).hasMessageContaining("at most 120");
    }

    @Test
    void anotherServerThatHearsLaterHasTheSame() {
        shelf("Signs", unit("Mind the gap", "Vorsicht Lücke"));
        long id = shelf("More", unit("Ramp down", "Rampe runter")).id();
        UnitReply gap = found(Side.SOURCE, "gap").get(0);
        units.mend(mara, gap.unit(), gap.version(), "Achtung Spalt");
        shelves.remove(mara, id, true);
        follow();
        int before = keeper.state().units();
        reader.read();
        assertThat(keeper.state().units()).as("built from nothing").isEqualTo(before);
    }

    @Test
    void manyUnitsTakeStatementsByTheThousandAndAreAllFound() {
        StringBuilder many = new StringBuilder();
        for (int i = 0; i < 2_500; i++) {
            many.append(unit("Number " + i + " of the long list", "Nummer " + i));
        }
        assertThat(shelf("Many", many.toString()).fresh()).isEqualTo(2_500);
        List<String> texts = new ArrayList<>();
        found(Side.SIMILAR, "Number 77 of the long list").forEach(one -> texts.add(one.text()));
        assertThat(texts.get(0)).isEqualTo("Nummer 77");
    }
}
