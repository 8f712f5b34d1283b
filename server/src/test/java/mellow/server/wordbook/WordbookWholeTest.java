package mellow.server.wordbook;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.tuple;

import java.io.ByteArrayOutputStream;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import mellow.core.language.LanguageTag;
import mellow.core.merge.Arrival;
import mellow.server.common.Refusal;
import mellow.server.people.Level;
import mellow.server.product.ProductService;
import mellow.server.product.ProductService.Definition;
import mellow.server.product.ProductService.Selected;
import mellow.server.support.Http;
import mellow.server.support.ServerTest;
import mellow.server.support.Statements;
import mellow.server.table.TableService;
import mellow.server.wordbook.TermFiles.TermsTaken;
import mellow.server.wordbook.TermRows.TermPage;
import mellow.server.wordbook.TermUse.SuggestedTerm;
import mellow.server.wordbook.TermUse.TermCount;
import mellow.server.wordbook.TermUse.TermFollowed;
import mellow.server.wordbook.WordbookService.Term;
import mellow.server.wordbook.WordbookService.TermHit;
import mellow.server.wordbook.WordbookService.TermSense;
import mellow.server.wordbook.WordbookService.TermText;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.http.HttpMethod;
import org.springframework.test.context.event.ApplicationEvents;
import org.springframework.test.context.event.RecordApplicationEvents;

/** Terms follow words through their endings, belong to products, are proposed and agreed on, counted where they stand, and come and go as files. */
@RecordApplicationEvents
class WordbookWholeTest extends ServerTest {

    private static final LanguageTag ENGLISH = new LanguageTag("en");
    private static final LanguageTag GERMAN = new LanguageTag("de");

    @Autowired
    private WordbookService wordbook;

    @Autowired
    private TermRows rows;

    @Autowired
    private TermUse use;

    @Autowired
    private TermFiles files;

    @Autowired
    private TableService tables;

    @Autowired
    private ProductService products;

    @Autowired
    private Http http;

    @Autowired
    private ApplicationEvents events;

    private long mara;
    private long ferry;

    @BeforeEach
    void terms() {
        mara = ledger.coordinator("mara");
        ledger.takeIn(
                mara,
                "Panel",
                """
                key,en,de,fi
                a,Two ferries wait,Zwei Fähren warten,Kaksi lauttaa odottaa
                b,The car ferry,Das Schiff,Autolautta
                c,Ferret food,Futter,Ruoka
                d,Open the car deck,Autodeck öffnen,Avaa autokansi
                e,Close the car deck,Autodeck schließen,
                f,The car deck is full,Autodeck voll,
                """,
                Arrival.SETTLED);
        ferry = wordbook.add(
                mara,
                "en",
                "ferry",
                "",
                new TermSense("noun", List.of(), "agreed", List.of("boat")),
                Map.of(
                        "de", new TermText("Fähre", List.of("Kahn"), List.of("Schiff"), null, null),
                        "fi", new TermText("lautta", List.of())));
    }

    private List<String> in(String source) {
        return wordbook.in(source, table(), ENGLISH, GERMAN).stream()
                .map(TermHit::term)
                .toList();
    }

    private long table() {
        return tables.find("panel").id();
    }

    private Term term(String word) {
        return rows.all().stream()
                .filter(one -> one.term().equals(word))
                .findFirst()
                .orElseThrow();
    }

    @Test
    void termsAreFoundByTheirFormsAndTheLongestFirst() {
        wordbook.add(mara, "en", "car ferry", "", Map.of());
        assertThat(in("Two ferries")).containsExactly("ferry");
        assertThat(in("Three boats")).as("by another form").containsExactly("ferry");
        assertThat(in("Two car ferries")).containsExactly("car ferry");
        assertThat(in("Ferret")).isEmpty();
    }

    @Test
    void whatMayBeSaidAsWellIsNoFinding() {
        ledger.awaitRechecks();
        assertThat(minded()).as("Schiff may be said, and Fähren is a form").doesNotContain("a", "b");
        wordbook.change(
                mara,
                ferry,
                0,
                "ferry",
                "",
                new TermSense("noun", List.of(), "agreed", List.of()),
                Map.of("de", new TermText("Fähre", List.of())));
        ledger.awaitRechecks();
        assertThat(minded()).as("not any more").contains("b").doesNotContain("a");
        assertThat(use.of(ferry).languages()).contains(new TermFollowed("de", 2, 1));
    }

    private List<String> minded() {
        return List.of(ledger.ask(
                        String.class,
                        "select coalesce(string_agg(e.key, ','), '') from finding_mask m join entry e on e.id = m.entry_id join language l on l.id = m.language_id and l.tag = 'de' where m.minds <> 0")
                .split(","));
    }

    @Test
    void whereATermStandsAndIsFollowedIsCounted() {
        TermCount count = use.of(ferry);
        assertThat(count.entries()).isEqualTo(2);
        assertThat(count.languages()).containsExactly(new TermFollowed("de", 2, 2), new TermFollowed("fi", 2, 2));
        assertThatThrownBy(() -> use.of(0)).hasMessageContaining("no such term");
    }

    @Test
    void aTermOfAProductCountsInItsTablesOnly() {
        ledger.takeIn(mara, "Other", "key,en,de\nx,The ferry,Boot\n", Arrival.SETTLED);
        products.create(mara, new Definition(0, "App", "app", List.of("other"), List.of(new Selected("de", 1)), "de"));
        wordbook.change(
                mara, ferry, 0, "ferry", "", new TermSense("noun", List.of("app"), "agreed", List.of()), Map.of());
        assertThat(in("The ferry")).isEmpty();
        assertThat(wordbook.in("The ferry", tables.find("other").id(), ENGLISH, GERMAN))
                .hasSize(1);
        ledger.awaitRechecks();
        assertThat(use.of(ferry).entries()).isEqualTo(1);
        assertThat(rows.page("", "", "app", 0).found()).isEqualTo(1);
        assertThat(rows.page("", "", "nothing", 0).found()).isZero();
    }

    @Test
    void contributorsProposeAndReviewersAgree() throws Exception {
        long lina = ledger.person("lina", "fi", Level.CONTRIBUTOR);
        long oskar = ledger.person("oskar", "fi", Level.REVIEWER);
        wordbook.add(lina, "en", "visor", "", TermSense.AGREED, Map.of("fi", new TermText("keulavisiiri", List.of())));
        assertThat(term("visor").sense().status()).isEqualTo("proposed");
        assertThat(term("visor").proposedBy()).isEqualTo("LINA");
        assertThat(in("The visor")).as("not agreed yet").isEmpty();
        assertThatThrownBy(() -> wordbook.add(
                        lina, "en", "bow", "", TermSense.AGREED, Map.of("de", new TermText("Bug", List.of()))))
                .hasMessageContaining("Only a reviewer of de");
        wordbook.propose(lina, ferry, new LanguageTag("fi"), "laiva");
        assertThat(term("ferry").texts().get("fi").text()).isEqualTo("lautta");
        assertThat(term("ferry").texts().get("fi").proposal()).isEqualTo("laiva");
        assertThat(rows.page("", "proposed", "", 0).terms())
                .extracting(Term::term)
                .containsExactly("ferry", "visor");
        assertThatThrownBy(() -> wordbook.propose(lina, ferry, GERMAN, "x")).hasMessageContaining("de");
        Term now = term("ferry");
        wordbook.change(oskar, ferry, now.version(), now.term(), "", Map.of("fi", new TermText("laiva", List.of())));
        assertThat(term("ferry").texts().get("fi").text()).isEqualTo("laiva");
        assertThat(term("ferry").texts().get("fi").proposal()).as("agreed on").isNull();
        wordbook.propose(lina, ferry, new LanguageTag("fi"), "vene");
        wordbook.propose(oskar, ferry, new LanguageTag("fi"), "");
        assertThat(term("ferry").texts().get("fi").proposal()).isNull();
        assertThat(http.json(lina, HttpMethod.PUT, "/api/terms/" + ferry + "/proposals/fi", "{\"text\":\"laiva\"}")
                        .status())
                .isEqualTo(204);
    }

    @Test
    void frequentWordsWithoutATermAreSuggested() {
        assertThat(use.suggested(table(), ENGLISH))
                .extracting(SuggestedTerm::words, SuggestedTerm::entries)
                .as("car has three letters, ferry is a term, the others stand there once or twice")
                .containsExactly(tuple("deck", 3));
        wordbook.add(mara, "en", "deck", "", Map.of());
        assertThat(use.suggested(table(), ENGLISH)).isEmpty();
    }

    @Test
    void aSearchLooksAtEverythingThatIsSaidOfATermAndPatternsAreNone() {
        wordbook.add(mara, "en", "50 % off_x", "", Map.of());
        assertThat(rows.page("schiff", "", "", 0).terms())
                .extracting(Term::term)
                .containsExactly("ferry");
        assertThat(rows.page("BOAT", "", "", 0).terms()).extracting(Term::term).containsExactly("ferry");
        assertThat(rows.page("kahn", "", "", 0).terms()).hasSize(1);
        assertThat(rows.page("%", "", "", 0).terms()).extracting(Term::term).containsExactly("50 % off_x");
        assertThat(rows.page("_", "", "", 0).found()).isEqualTo(1);
        assertThat(rows.page("\\", "", "", 0).found()).isZero();
    }

    @Test
    void aLargeWordbookIsReadInPages() {
        ledger.run(
                "insert into term (language_id, text, note, changed_at, changed_by) select (select id from language where tag = 'en'), 'term ' || to_char(n, 'FM00000'), '', now(), "
                        + mara + " from generate_series(1, 20000) n");
        TermPage page = rows.page("", "", "", 0);
        assertThat(page.terms()).hasSize(200);
        assertThat(page.all()).isEqualTo(20_001);
        assertThat(rows.page("", "", "", 20_000).terms()).hasSize(1);
        assertThat(rows.page("term 00777", "", "", 0).terms()).hasSize(1);
        assertThat(in("term 01234 and a ferry")).containsExactly("term 01234", "ferry");
    }

    private static final String TBX =
            """
            <?xml version="1.0"?><martif type="TBX-Basic" xml:lang="en"><text><body>
            <termEntry id="c1"><langSet xml:lang="en"><tig><term>ferry</term></tig></langSet>
              <langSet xml:lang="de"><tig><term>Fährschiff</term></tig></langSet><langSet xml:lang="pl"><tig><term>prom</term></tig></langSet></termEntry>
            <termEntry id="c2"><langSet xml:lang="en"><tig><term>bridge</term></tig></langSet>
              <langSet xml:lang="de"><tig><term>Brücke</term></tig><tig><term>Deckshaus</term><termNote type="administrativeStatus">deprecatedTerm-admn-sts</termNote></tig></langSet></termEntry>
            </body></text></martif>
            """;

    @Test
    void aFileFillsWhatIsMissingAndReplacesNothing() {
        TermsTaken taken = files.take(mara, "words.tbx", TBX.getBytes(StandardCharsets.UTF_8));
        assertThat(taken)
                .extracting(TermsTaken::terms, TermsTaken::added, TermsTaken::filled)
                .containsExactly(2, 1, 1);
        assertThat(taken.told()).containsExactly("ferry, de: the file says “Fährschiff”, and “Fähre” stays.");
        assertThat(term("ferry").texts().get("de").text()).isEqualTo("Fähre");
        assertThat(term("ferry").texts().get("de").forms()).containsExactly("Schiff");
        assertThat(term("ferry").texts().get("pl").text()).isEqualTo("prom");
        assertThat(term("ferry").sense().forms()).containsExactly("boat");
        assertThat(term("bridge").texts().get("de").avoid()).containsExactly("Deckshaus");
        TermsTaken again = files.take(mara, "words.tbx", TBX.getBytes(StandardCharsets.UTF_8));
        assertThat(again.added() + again.filled()).isZero();
    }

    @ParameterizedTest
    @CsvSource({"tbx", "csv"})
    void goesOutAndComesIntoAnEmptyWordbook(String format) {
        wordbook.add(
                mara,
                "en",
                "bridge",
                "Where the captain stands",
                Map.of("de", new TermText("Brücke", List.of("Steg"))));
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        files.write(format, out);
        ledger.run("update term set removed_at = now()");
        TermsTaken taken = files.take(mara, "wordbook." + format, out.toByteArray());
        assertThat(taken.added()).isEqualTo(2);
        assertThat(term("bridge").note()).isEqualTo("Where the captain stands");
        assertThat(term("bridge").texts().get("de").text()).isEqualTo("Brücke");
        assertThat(term("bridge").texts().get("de").avoid()).containsExactly("Steg");
        assertThat(term("ferry").texts().get("fi").text()).isEqualTo("lautta");
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            textBlock =
                    """
            {"text":null,"avoid":[]}
            {"text":"x","avoid":null}
            {"text":"x","avoid":[null]}
            {"text":"x","avoid":[],"forms":[null]}
            """)
    void whatIsNotSaidAtAllIsRefused(String text) throws Exception {
        String body = "{\"source\":\"en\",\"term\":\"hull\",\"note\":\"\",\"texts\":{\"de\":" + text + "}}";
        assertThat(http.json(mara, HttpMethod.POST, "/api/terms", body).status())
                .isEqualTo(400);
    }

    @Test
    void aFileOfThousandsTakesAFewStatementsForFiveHundred() {
        StringBuilder csv = new StringBuilder("key,en,de,fi\n");
        for (int i = 0; i < 2_000; i++) {
            csv.append("t%d,word number %d,Wort %d,sana %d\n".formatted(i, i, i, i));
        }
        byte[] file = csv.toString().getBytes(StandardCharsets.UTF_8);
        files.take(mara, "first.csv", "key,en,de\na,anchor,Anker\n".getBytes(StandardCharsets.UTF_8));
        int before = ledger.ask(Integer.class, "select count(*)::int from recheck");
        assertThat(Statements.of(() -> files.take(mara, "words.csv", file))).hasSizeLessThan(60);
        assertThat(ledger.ask(Integer.class, "select count(*)::int from recheck") - before)
                .as("texts are looked at again once, whatever their number")
                .isLessThanOrEqualTo(2);
        assertThat(rows.page("word number 1999", "", "", 0).terms())
                .singleElement()
                .satisfies(term -> assertThat(term.texts().get("fi").text()).isEqualTo("sana 1999"));
        assertThat(files.take(mara, "words.csv", file).added()).isZero();
    }

    @Test
    void aTermThatIsAnotherConcernsEveryLanguageItIsAgreedOnIn() {
        int version = rows.page("ferry", "", "", 0).terms().get(0).version();
        wordbook.change(mara, ferry, version, "ferryboat", "", TermSense.AGREED, Map.of());
        assertThat(events.stream(WordsChanged.class).toList()).last().satisfies(changed -> assertThat(
                        changed.languages())
                .contains(tables.find("panel").language(GERMAN).orElseThrow().number()));
    }

    @Test
    void aTermThatIsNotThereIsSaidSo() {
        assertThatThrownBy(() -> wordbook.change(mara, 0, 0, "x", "", TermSense.AGREED, Map.of()))
                .isInstanceOf(Refusal.class)
                .hasMessageContaining("no such term");
    }

    @Test
    void aFileMaySayATermTwice() {
        TermsTaken taken = files.take(
                mara,
                "twice.csv",
                "key,en,de,fi\na,Anchor,Anker,\nb,anchor,Haken,ankkuri\n".getBytes(StandardCharsets.UTF_8));
        assertThat(taken.added()).isEqualTo(1);
        assertThat(taken.told()).containsExactly("Anchor, de: the file says “Haken”, and “Anker” stays.");
        assertThat(term("Anchor").texts().get("fi").text()).isEqualTo("ankkuri");
    }

    @Test
    void formsThatBringAMarkAreLookedAtAgainAndTold() {
        ledger.takeIn(mara, "Häfen", "key,de,fi\nh,Zwei Häfen,Kaksi paikkaa\n", Arrival.SETTLED);
        long id = wordbook.add(mara, "de", "Hafen", "", Map.of("fi", new TermText("satama", List.of())));
        ledger.awaitRechecks();
        assertThat(wordbook.in("Zwei Häfen", tables.find("hafen").id(), GERMAN, new LanguageTag("fi")))
                .extracting(TermHit::term)
                .containsExactly("Hafen");
        assertThat(use.of(id).languages()).containsExactly(new TermFollowed("fi", 1, 0));
        assertThat(
                        ledger.ask(
                                Integer.class,
                                "select count(*)::int from finding_mask m join entry e on e.id = m.entry_id where e.key = 'h' and m.minds <> 0"))
                .isEqualTo(1);
    }

    @Test
    void whatIsAgreedNoMoreIsNoFindingAnyMore() {
        wordbook.change(
                mara,
                ferry,
                0,
                "ferry",
                "",
                new TermSense("", List.of(), "agreed", List.of()),
                Map.of("de", new TermText("Dampfer", List.of())));
        ledger.awaitRechecks();
        assertThat(minded()).contains("a", "b");
        wordbook.change(mara, ferry, 1, "ferry", "", Map.of("de", new TermText("", List.of())));
        ledger.awaitRechecks();
        assertThat(minded()).doesNotContain("a", "b");
    }

    @Test
    void onlyCoordinatorsTakeFilesIn() throws Exception {
        long wanda = ledger.person("wanda", "de", Level.REVIEWER);
        assertThat(http.bytes(wanda, "/api/terms/file?name=w.tbx", TBX.getBytes(StandardCharsets.UTF_8))
                        .status())
                .isEqualTo(403);
        assertThatThrownBy(() -> files.take(mara, "w.tbx", "<tbx/>".getBytes(StandardCharsets.UTF_8)))
                .isInstanceOf(RuntimeException.class);
    }
}
