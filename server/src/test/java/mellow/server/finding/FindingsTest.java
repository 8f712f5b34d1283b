package mellow.server.finding;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import mellow.core.language.LanguageTag;
import mellow.core.merge.Arrival;
import mellow.server.cell.CellChange;
import mellow.server.cell.CellChange.Action;
import mellow.server.cell.CellChange.How;
import mellow.server.cell.CellService;
import mellow.server.cell.ManyChanges;
import mellow.server.entry.EntryService;
import mellow.server.finding.FindingService.FindingCounts;
import mellow.server.finding.FindingService.FindingPlace;
import mellow.server.finding.FindingService.MendedText;
import mellow.server.people.Level;
import mellow.server.support.ServerTest;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** What the checks found, as it is kept, counted, listed, mended and said to be right. After every test the audit looks at all texts again. */
class FindingsTest extends ServerTest {

    private static final LanguageTag GERMAN = new LanguageTag("de");

    @Autowired
    private FindingService findings;

    @Autowired
    private ExceptionService exceptions;

    @Autowired
    private CellService cells;

    @Autowired
    private EntryService entries;

    private long mara;
    private long lina;
    private long oskar;

    @BeforeEach
    void aTable() {
        mara = ledger.coordinator("mara");
        oskar = ledger.person("oskar", "de", Level.REVIEWER);
        lina = ledger.person("lina", "de", Level.CONTRIBUTOR);
        ledger.takeIn(
                mara,
                "Panel",
                """
                key,en,de,fi
                gate,Gate {n},Tor,Portti {n}
                ramp,Ramp up,Rampe  hoch,Ramppi ylös
                deck,Deck,Deck,Kansi
                bow,Deck,Plattform,Kansi
                """,
                Arrival.PENCILLED);
    }

    private Map<String, Integer> found(String scope) {
        Map<String, Integer> found = new TreeMap<>();
        findings.counts(scope).kinds().stream()
                .filter(kind -> kind.stops() + kind.minds() > 0)
                .forEach(kind -> found.put(kind.kind(), kind.stops() + kind.minds()));
        return found;
    }

    /** Too many to hold one by one: a database has room for some thousand locks. */
    @Test
    void manySourcesThatStandTwiceComeInTogether() {
        StringBuilder file = new StringBuilder("key,en,de\n");
        for (int i = 0; i < 1_000; i++) {
            file.append("a.")
                    .append(i)
                    .append(",Cabin ")
                    .append(i)
                    .append(",Kabine ")
                    .append(i)
                    .append('\n');
            file.append("b.").append(i).append(",Cabin ").append(i);
            file.append(i % 4 == 0 ? ",Kammer " : ",Kabine ").append(i).append('\n');
        }
        ledger.takeIn(mara, "Cabins", file.toString(), Arrival.SETTLED);
        assertThat(found("table=cabins")).containsEntry("otherwise", 2 * 1_000 / 4);
    }

    private void pencil(String key, String text) {
        ledger.change(lina, key, "de", CellChange.text(Action.PENCIL, version(key), text));
    }

    private int version(String key) {
        return ledger.ask(
                Integer.class,
                "select c.version from cell c join entry e on e.id = c.entry_id join language l on l.id = c.language_id where e.key = '"
                        + key + "' and l.tag = 'de'");
    }

    @Test
    void whatAFileBringsIsFoundAtOnceAndByScope() {
        assertThat(found("")).isEqualTo(Map.of("placeholder", 1, "space", 1, "otherwise", 2));
        assertThat(found("in=fi")).isEmpty();
        assertThat(found("table=panel&in=de&words=gate")).isEqualTo(Map.of("placeholder", 1));
        FindingCounts counts = findings.counts("");
        assertThat(counts.texts()).isEqualTo(8);
        assertThat(counts.toMend()).isEqualTo(4);
        assertThat(counts.stopped()).isEqualTo(1);
        assertThat(counts.kinds().get(0).byLanguage()).isEqualTo(Map.of("de", 1));
    }

    @Test
    void aTextThatIsTypedTakesItsFindingAlong() {
        pencil("gate", "Tor {n}");
        assertThat(found("")).doesNotContainKey("placeholder");
        pencil("gate", "Tor {m}");
        assertThat(found("")).containsEntry("placeholder", 1);
    }

    @Test
    void aSourceThatIsRewrittenIsLookedAtInEveryLanguage() {
        entries.rewrite(mara, ledger.entry("ramp"), 0, new TreeMap<>(Map.of("other", "Ramp {n} up")), true);
        assertThat(found("")).isEqualTo(Map.of("placeholder", 3, "space", 1, "otherwise", 2));
    }

    @Test
    void theSameSourceSaidDifferentlyIsFoundInBothAndGoesWithEither() {
        pencil("bow", "Deck");
        assertThat(found("")).doesNotContainKey("otherwise");
        pencil("bow", "Brücke");
        assertThat(found("")).containsEntry("otherwise", 2);
        long bow = ledger.entry("bow");
        entries.remove(mara, List.of(bow));
        assertThat(found("")).doesNotContainKey("otherwise");
        entries.putBack(mara, List.of(bow));
        assertThat(found("")).containsEntry("otherwise", 2);
        entries.rewrite(mara, bow, 2, new TreeMap<>(Map.of("other", "Bow")), true);
        assertThat(found("")).doesNotContainKey("otherwise");
    }

    @Test
    void theListSaysWhatIsWrongWhereAndWhatMendsIt() {
        FindingPlace gate = findings.list("", "placeholder", null).places().get(0);
        assertThat(gate.key()).isEqualTo("gate");
        assertThat(gate.language()).isEqualTo("de");
        assertThat(gate.findings()).singleElement().satisfies(finding -> {
            assertThat(finding.sentence()).isEqualTo("The placeholder {n} is missing.");
            assertThat(finding.mend()).isNull();
        });
        assertThat(findings.list("", "space", null)
                        .places()
                        .get(0)
                        .findings()
                        .get(0)
                        .mended())
                .isEqualTo("Rampe hoch");
        assertThatThrownBy(() -> findings.list("", "nothing", null)).hasMessageContaining("no kind of finding");
        assertThatThrownBy(() -> findings.list("", "space", "here")).hasMessageContaining("no place in this list");
    }

    @Test
    void whatIsSureIsMendedAsOneChangeAndOneUndoTakesItBack() {
        List<MendedText> mends = findings.mends("", "space").texts();
        assertThat(mends).singleElement().satisfies(one -> {
            assertThat(one.before()).containsEntry("other", "Rampe  hoch");
            assertThat(one.after()).containsEntry("other", "Rampe hoch");
        });
        MendedText one = mends.get(0);
        var done = cells.changeMany(
                oskar,
                new ManyChanges(
                        Action.PUT_FORWARD,
                        List.of(new ManyChanges.One(
                                one.entry(),
                                one.language(),
                                one.version(),
                                one.after().get("other"),
                                null,
                                null)),
                        null,
                        false,
                        How.TYPED));
        assertThat(done.changed()).isEqualTo(1);
        assertThat(found("")).containsEntry("space", 1);
        assertThat(ledger.cell("ramp", "de")).isEqualTo("offered Rampe  hoch");
        cells.undo(oskar, done.change());
        assertThat(ledger.cell("ramp", "de")).isEqualTo("pencilled Rampe  hoch");
    }

    @Test
    void whatAReviewerFindsRightCountsNoMoreUntilTextOrSourceChanges() {
        long gate = ledger.entry("gate");
        exceptions.say(oskar, gate, GERMAN, "placeholder", null, "the needle shows it");
        assertThat(found("")).doesNotContainKey("placeholder");
        assertThat(findings.list("", "placeholder", null).right())
                .singleElement()
                .satisfies(place -> {
                    assertThat(place.right()).isEqualTo("the needle shows it");
                    assertThat(place.by()).isEqualTo("OSKAR");
                });
        ledger.change(lina, "gate", "de", CellChange.text(Action.OFFER, version("gate"), "Gatter"));
        assertThat(found("")).as("an offer changes nothing that is in force").doesNotContainKey("placeholder");
        pencil("gate", "Pforte");
        assertThat(found("")).containsEntry("placeholder", 1);
        assertThat(findings.list("", "placeholder", null).right()).isEmpty();
    }

    @Test
    void aBlockerThatIsRightLiftsNoOther() {
        long gate = ledger.entry("gate");
        var offered = ledger.change(lina, "gate", "de", CellChange.text(Action.OFFER, version("gate"), "Gatter {m}"));
        assertThatThrownBy(() -> settle(offered.version())).hasMessageContaining("{n}");
        exceptions.say(oskar, gate, GERMAN, "length", Map.of("other", "Gatter {m}"), "not this");
        assertThatThrownBy(() -> settle(offered.version())).hasMessageContaining("{n}");
        exceptions.say(oskar, gate, GERMAN, "placeholder", Map.of("other", "Gatter {m}"), "an older panel");
        settle(offered.version());
        assertThat(ledger.cell("gate", "de")).isEqualTo("settled Gatter {m}");
        exceptions.takeBack(oskar, gate, GERMAN, "placeholder");
        assertThat(found("")).containsEntry("placeholder", 1);
    }

    private void settle(int version) {
        long offer = ledger.ask(Long.class, "select id from offer where answer = 0");
        ledger.change(oskar, "gate", "de", CellChange.answer(Action.SETTLE, version, offer, null));
    }

    @Test
    void onlyAReviewerOfTheLanguageSaysThatSomethingIsRight() {
        long gate = ledger.entry("gate");
        assertThatThrownBy(() -> exceptions.say(lina, gate, GERMAN, "placeholder", null, "because"))
                .hasMessageContaining("Only a reviewer");
        assertThatThrownBy(() -> exceptions.say(oskar, gate, new LanguageTag("fi"), "placeholder", null, "because"))
                .hasMessageContaining("Only a reviewer");
        assertThatThrownBy(() -> exceptions.say(oskar, gate, GERMAN, "placeholder", null, " "))
                .hasMessageContaining("Say why");
        assertThatThrownBy(() -> exceptions.say(oskar, 0, GERMAN, "placeholder", null, "because"))
                .hasMessageContaining("does not exist");
        assertThat(found("")).containsEntry("placeholder", 1);
    }
}
