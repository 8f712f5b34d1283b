package mellow.server.delivery;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.IntStream;
import mellow.core.check.Kind;
import mellow.core.merge.Arrival;
import mellow.server.cell.CellChange;
import mellow.server.cell.CellChange.Action;
import mellow.server.check.MaskKeeper;
import mellow.server.common.Refusal;
import mellow.server.entry.EntryService;
import mellow.server.product.ProductService;
import mellow.server.product.ProductService.Definition;
import mellow.server.product.ProductService.Selected;
import mellow.server.run.RunService.RunReply;
import mellow.server.support.ServerTest;
import org.awaitility.Awaitility;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.transaction.support.TransactionTemplate;

/** A panel is set up, delivered, changed, delivered again, compared and recalled. */
class DeliveryTest extends ServerTest {

    private static final String PANEL =
            """
            key,section,en,fi,et,de,pl
            ramp.up,Bow,Ramp up,Ramppi ylös,Ramp üles,Rampe hoch,Rampa w górę
            ramp.down,Bow,Ramp down,Ramppi alas,,Rampe runter,Rampa w dół
            ramp.blocked,Bow,A car blocks the {side} ramp,Auto tukkii rampin {side},Auto tõkestab rampi {side},Ein Auto blockiert die Rampe {side},
            tank.full,Tanks,"Tank full, stop",Säiliö täynnä,Paak täis,Tank voll,Zbiornik pełny
            """;

    @Autowired
    private DeliveryService deliveries;

    @Autowired
    private Recipes recipes;

    @Autowired
    private Plans plans;

    @Autowired
    private DeliveryFiles files;

    @Autowired
    private ProductService products;

    @Autowired
    private ProductAnswers answers;

    @Autowired
    private EntryService entries;

    @Autowired
    private MaskKeeper masks;

    @Autowired
    private JdbcClient jdbc;

    @Autowired
    private TransactionTemplate transactions;

    private long mara;

    @BeforeEach
    void aPanel() {
        mara = ledger.coordinator("mara");
        ledger.takeIn(mara, "Ramp", PANEL, Arrival.SETTLED);
        for (String language : List.of("fi", "et", "de", "pl")) {
            ledger.allowOwn("Ramp", language);
        }
        products.create(
                mara,
                new Definition(
                        0,
                        "Panel",
                        "panel",
                        List.of("ramp"),
                        List.of(
                                new Selected("fi", 1),
                                new Selected("et", 2, false, null, List.of("fi"), null),
                                new Selected("de", 3),
                                new Selected("pl", 4)),
                        "fi"));
    }

    static Recipe.RecipeSettings texts(String format, String files, String pattern) {
        return new Recipe.RecipeSettings(
                "texts",
                format,
                files,
                pattern,
                "visible",
                List.of(),
                null,
                "settled",
                "borrowed",
                "utf-8",
                "semicolon",
                false,
                false,
                false,
                "",
                "",
                false);
    }

    static Recipe.RecipeSettings kind(String kind, String format, String pattern) {
        return new Recipe.RecipeSettings(
                kind,
                format,
                "one",
                pattern,
                "visible",
                List.of(),
                null,
                "settled",
                "out",
                "utf-8",
                "semicolon",
                false,
                false,
                false,
                "panel",
                "",
                kind.equals("keys"));
    }

    private static Recipe.RecipeSettings in(Recipe.RecipeSettings of, String charset, String... languages) {
        return new Recipe.RecipeSettings(
                of.kind(),
                of.format(),
                of.files(),
                of.pattern(),
                languages.length == 0 ? "visible" : "chosen",
                List.of(languages),
                of.tables(),
                of.texts(),
                of.hole(),
                charset,
                of.delimiter(),
                of.guard(),
                of.nested(),
                of.ascii(),
                of.prefix(),
                of.namespace(),
                of.numbers());
    }

    private RunReply deliver() {
        deliveries.start(mara, "panel");
        return Awaitility.await().until(() -> deliveries.run("panel").orElseThrow(), run -> !run.open());
    }

    private void delivered(int number) {
        RunReply run = deliver();
        assertThat(run.status()).as(run.message()).isEqualTo("done");
        assertThat(deliveries.history("panel", Integer.MAX_VALUE).get(0).number())
                .isEqualTo(number);
    }

    private Map<String, byte[]> content(int number) throws IOException {
        Map<String, byte[]> content = new LinkedHashMap<>();
        for (Packing.Packed file : files.of(deliveries.found("panel", number).id())) {
            try (InputStream in = file.content().open()) {
                content.put(file.path(), in.readAllBytes());
            }
        }
        return content;
    }

    private byte[] zip(int number) throws IOException {
        long id = deliveries.found("panel", number).id();
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        List<Packing.Packed> packed = files.of(id);
        Packing.zip(files.manifest(id, packed), packed, out);
        return out.toByteArray();
    }

    private void settle(String key, String language, String text) {
        int version = ledger.ask(
                Integer.class,
                "select version from cell where entry_id = " + ledger.entry(key)
                        + " and language_id = (select id from language where tag = '" + language + "')");
        ledger.change(mara, key, language, new CellChange(Action.PUT_FORWARD, version, text, null, null, false, null));
        assertThat(ledger.cell(key, language)).isEqualTo("settled " + text);
    }

    @Test
    void aPanelGetsAColumnPerLanguageItsSelectorsAndItsKeys() throws IOException {
        recipes.add(mara, "panel", "Texts", texts("csv", "one", "panel_texts.csv"));
        recipes.add(mara, "panel", "Selectors", kind("selectors", "csv", "languages.csv"));
        recipes.add(mara, "panel", "Keys", kind("keys", "c", "panel_keys.h"));
        delivered(1);
        Map<String, byte[]> files = content(1);
        assertThat(files.keySet()).containsExactly("languages.csv", "panel_keys.h", "panel_texts.csv");
        assertThat(new String(files.get("panel_texts.csv"), StandardCharsets.UTF_8))
                .isEqualTo(
                        """
                        key;fi;et;de;pl
                        ramp.up;Ramppi ylös;Ramp üles;Rampe hoch;Rampa w górę
                        ramp.down;Ramppi alas;Ramppi alas;Rampe runter;Rampa w dół
                        ramp.blocked;Auto tukkii rampin {side};Auto tõkestab rampi {side};Ein Auto blockiert die Rampe {side};Auto tukkii rampin {side}
                        tank.full;Säiliö täynnä;Paak täis;Tank voll;Zbiornik pełny
                        """
                                .replace("\n", "\r\n"));
        assertThat(new String(files.get("languages.csv"), StandardCharsets.UTF_8))
                .isEqualTo(
                        "number;tag;name;direction;start\r\n1;fi;suomi;ltr;1\r\n2;et;eesti;ltr;0\r\n3;de;Deutsch;ltr;0\r\n4;pl;polski;ltr;0\r\n");
        assertThat(new String(files.get("panel_keys.h"), StandardCharsets.UTF_8))
                .contains("#define PANEL_RAMP_UP 1 /* Ramp up */", "#define PANEL_TANK_FULL 4 /* Tank full, stop */");
        assertThat(
                        ledger.ask(
                                String.class,
                                "select string_agg(l.tag || t.texts, ' ' order by l.tag) from delivery_texts t join language l on l.id = t.language_id"))
                .isEqualTo("de4 et3 fi4 pl3");
    }

    @Test
    void deliveringTwiceGivesTheSameBytesAndOneChangedTextChangesOneLineOfOneFile() throws IOException {
        recipes.add(mara, "panel", "Texts", texts("csv", "each", "{tag}.csv"));
        recipes.add(mara, "panel", "Web", texts("json", "each", "json/{tag_}.json"));
        delivered(1);
        delivered(2);
        assertThat(zip(2)).isEqualTo(zip(1));
        assertThat(deliveries.found("panel", 2).reply().changed()).isZero();
        settle("tank.full", "de", "Tank ist voll");
        assertThat(deliveries.overview("panel").changed()).isEqualTo(1);
        delivered(3);
        Compared compared = deliveries.compare("panel", 2, 3);
        assertThat(compared.files())
                .containsExactly(
                        new Compared.FileChange("de.csv", "changed"),
                        new Compared.FileChange("json/de.json", "changed"));
        assertThat(compared.same()).isEqualTo(6);
        assertThat(compared.languages()).containsExactly(Map.entry("de", 1));
        assertThat(compared.texts()).singleElement().satisfies(change -> {
            assertThat(change.key()).isEqualTo("tank.full");
            assertThat(change.before()).containsEntry("other", "Tank voll");
            assertThat(change.after()).containsEntry("other", "Tank ist voll");
        });
        List<String> before = new String(content(2).get("de.csv"), StandardCharsets.UTF_8)
                .lines()
                .toList();
        List<String> after = new String(content(3).get("de.csv"), StandardCharsets.UTF_8)
                .lines()
                .toList();
        assertThat(after)
                .hasSameSizeAs(before)
                .filteredOn(line -> !before.contains(line))
                .containsExactly("tank.full;Tank ist voll");
        assertThat(deliveries.found("panel", 3).reply().changed()).isEqualTo(1);
    }

    @Test
    void whatTheNextOneWouldChangeIsSeenBeforeAndNothingIsKept() {
        recipes.add(mara, "panel", "Texts", texts("csv", "each", "{tag}.csv"));
        Compared first = deliveries.ahead(mara, "panel");
        assertThat(first.files()).extracting(Compared.FileChange::what).containsOnly("added");
        assertThat(first.languages()).containsKeys("fi", "et", "de");
        delivered(1);
        assertThat(deliveries.ahead(mara, "panel").files()).isEmpty();
        settle("tank.full", "de", "Tank ist voll");
        Compared ahead = deliveries.ahead(mara, "panel");
        assertThat(ahead.files()).containsExactly(new Compared.FileChange("de.csv", "changed"));
        assertThat(ahead.languages()).isEqualTo(Map.of("de", 1));
        assertThat(ahead.texts()).singleElement().satisfies(text -> {
            assertThat(text.key()).isEqualTo("tank.full");
            assertThat(text.after()).containsEntry("other", "Tank ist voll");
            assertThat(text.before()).isNotNull().doesNotContainEntry("other", "Tank ist voll");
        });
        assertThat(deliveries.history("panel", Integer.MAX_VALUE)).hasSize(1);
        delivered(2);
        assertThat(deliveries.compare("panel", 1, 2)).isEqualTo(ahead);
    }

    @Test
    void whatTheCharacterSetLacksStopsWithTheKeyTheLanguageAndTheLetters() throws IOException {
        recipes.add(mara, "panel", "West", in(texts("csv", "one", "west.csv"), "windows-1252", "fi", "et", "de"));
        recipes.add(mara, "panel", "East", in(texts("csv", "each", "{tag}.csv"), "windows-1250", "pl"));
        delivered(1);
        assertThat(new String(content(1).get("west.csv"), Charset.forName("windows-1252")))
                .contains("Auto tõkestab rampi {side}", "Säiliö täynnä");
        assertThat(new String(content(1).get("pl.csv"), Charset.forName("windows-1250")))
                .contains("Rampa w górę");
        Recipe east = recipes.of(products.find("panel").id()).get(1);
        recipes.edit(
                mara,
                "panel",
                new Recipe(east.id(), east.name(), in(east.settings(), "windows-1252", "pl"), true, east.version()));
        RunReply run = deliver();
        assertThat(run.status()).isEqualTo("failed");
        assertThat(run.message()).isEqualTo("ramp.up in pl has letters that windows-1252 lacks: ę.");
        assertThat(deliveries.history("panel", Integer.MAX_VALUE))
                .as("nothing half")
                .hasSize(1);
        assertThatThrownBy(() -> deliveries.example("panel", in(east.settings(), "windows-1252", "pl")))
                .isInstanceOf(Refusal.class)
                .hasMessageContaining("windows-1252");
    }

    @Test
    void aLanguageThatWouldBreakKeepsTheTextsOfTheLastDelivery() throws IOException {
        recipes.add(mara, "panel", "Texts", texts("csv", "each", "{tag}.csv"));
        delivered(1);
        ledger.takeIn(mara, "Ramp", "key,limit,en\nramp.blocked,30,A car blocks the {side} ramp\n", Arrival.SETTLED);
        settle("ramp.up", "de", "Rampe anheben");
        settle("ramp.up", "fi", "Nosta ramppi");
        assertThat(deliveries.overview("panel").languages())
                .filteredOn(one -> one.language().equals("de"))
                .singleElement()
                .satisfies(one -> assertThat(one.answer()).isEqualTo("held"));
        delivered(2);
        assertThat(content(2).get("de.csv")).isEqualTo(content(1).get("de.csv"));
        assertThat(new String(content(2).get("fi.csv"), StandardCharsets.UTF_8)).contains("Nosta ramppi");
        Plans.DeliveryPlan plan = plans.of(products.find("panel").id());
        plans.change(
                mara,
                "panel",
                new Plans.DeliveryPlan(
                        new Gates("stop", 0, "hold", "go"),
                        false,
                        null,
                        List.of(),
                        "UTC",
                        null,
                        null,
                        "",
                        plan.version()));
        assertThat(deliver().message()).isEqualTo("de stops the delivery: 1 text would break.");
        plan = plans.of(products.find("panel").id());
        plans.change(
                mara,
                "panel",
                new Plans.DeliveryPlan(
                        new Gates("out", 0, "hold", "go"),
                        false,
                        null,
                        List.of(),
                        "UTC",
                        null,
                        null,
                        "",
                        plan.version()));
        delivered(3);
        assertThat(new String(content(3).get("de.csv"), StandardCharsets.UTF_8))
                .contains("Rampe anheben", "ramp.blocked;Auto tukkii rampin {side}");
    }

    private void gates(Gates gates) {
        Plans.DeliveryPlan plan = plans.of(products.find("panel").id());
        plans.change(
                mara,
                "panel",
                new Plans.DeliveryPlan(gates, false, null, List.of(), "UTC", null, null, "", plan.version()));
    }

    @Test
    void aStartLanguageThatWouldBeHeldBackStopsEverything() {
        recipes.add(mara, "panel", "Texts", texts("csv", "each", "{tag}.csv"));
        ledger.takeIn(mara, "Ramp", "key,limit,en\ntank.full,15,\"Tank full, stop\"\n", Arrival.SETTLED);
        ledger.takeIn(mara, "Ramp", "key,limit,en\nramp.up,8,Ramp up\n", Arrival.SETTLED);
        assertThat(deliver().message()).isEqualTo("fi would be held back, and Panel starts in it: 1 text would break.");
    }

    @Test
    void staleTextsGoOutUnlessAGateOrARecipeSaysOtherwise() throws IOException {
        recipes.add(mara, "panel", "Texts", texts("csv", "each", "{tag}.csv"));
        Recipe.RecipeSettings all = texts("csv", "each", "fresh/{tag}.csv");
        recipes.add(
                mara,
                "panel",
                "Fresh",
                new Recipe.RecipeSettings(
                        all.kind(),
                        all.format(),
                        all.files(),
                        all.pattern(),
                        all.which(),
                        all.languages(),
                        null,
                        "fresh",
                        "key",
                        all.charset(),
                        all.delimiter(),
                        false,
                        false,
                        false,
                        "",
                        "",
                        false));
        int version = ledger.ask(Integer.class, "select version from entry where key = 'ramp.down'");
        entries.rewrite(
                mara, ledger.entry("ramp.down"), version, new TreeMap<>(Map.of("other", "Ramp fully down")), true);
        delivered(1);
        assertThat(new String(content(1).get("de.csv"), StandardCharsets.UTF_8)).contains("ramp.down;Rampe runter");
        assertThat(new String(content(1).get("fresh/de.csv"), StandardCharsets.UTF_8))
                .contains("ramp.down;ramp.down");
        gates(new Gates("hold", 0, "hold", "hole"));
        delivered(2);
        assertThat(new String(content(2).get("de.csv"), StandardCharsets.UTF_8)).contains("ramp.down;Ramp fully down");
        gates(new Gates("hold", 0, "hold", "hold"));
        assertThat(deliver().message()).startsWith("fi would be held back, and Panel starts in it: 1 is stale");
    }

    @Test
    void anEntryWithoutASourceStopsEveryDelivery() {
        recipes.add(mara, "panel", "Texts", texts("csv", "each", "{tag}.csv"));
        ledger.run("update entry set source = '' where key = 'tank.full'");
        assertThat(deliver().message())
                .isEqualTo("Ramp has an entry without a source text, which stops every delivery.");
        assertThat(answers.warnings("panel"))
                .extracting(ProductAnswers.ProductWarning::code)
                .contains("base-not-whole");
        ledger.run("update entry set source = 'Tank full, stop' where key = 'tank.full'");
    }

    @Test
    void lettersThatAFontLacksAreWarnedOf() {
        assertThat(answers.warnings("panel")).isEmpty();
        ledger.run("delete from finding_mask");
        ledger.run(
                "insert into finding_mask (entry_id, language_id, table_id, stops, minds) select e.id, l.id, e.table_id, case when e.key = 'ramp.up' then "
                        + Kind.LETTERS.bit() + " else 0 end, " + (Kind.LETTERS.bit() | Kind.TERM.bit())
                        + " from entry e, language l where l.tag = 'pl'");
        assertThat(answers.warnings("panel")).singleElement().satisfies(one -> {
            assertThat(one.code()).isEqualTo("letters-lacking");
            assertThat(one.language()).isEqualTo("pl");
            assertThat(one.sentence()).endsWith("texts in Polish have letters that a font or a character set lacks.");
        });
        ledger.run("delete from finding_mask where stops = " + Kind.LETTERS.bit());
        ledger.run("update finding_mask set minds = " + Kind.TERM.bit());
        assertThat(answers.warnings("panel")).isEmpty();
        ledger.run("delete from finding_mask");
        recheck();
    }

    /** What a test did to what was found is made good. */
    private void recheck() {
        transactions.executeWithoutResult(status -> masks.ofEntries(
                jdbc.sql("select id from entry").query(Long.class).list()));
    }

    @Test
    void numbersAreGivenOnceAndNeverToAnother() throws IOException {
        recipes.add(mara, "panel", "Keys", kind("keys", "c", "keys.h"));
        delivered(1);
        entries.remove(mara, List.of(ledger.entry("ramp.down")));
        ledger.takeIn(mara, "Ramp", "key,en\nramp.new,New ramp\n", Arrival.SETTLED);
        delivered(2);
        assertThat(new String(content(2).get("keys.h"), StandardCharsets.UTF_8))
                .contains("PANEL_RAMP_UP 1", "PANEL_RAMP_BLOCKED 3", "PANEL_TANK_FULL 4", "PANEL_RAMP_NEW 5")
                .doesNotContain("RAMP_DOWN");
    }

    @Test
    void aRecalledDeliveryIsNoMoreTheLast() {
        recipes.add(mara, "panel", "Texts", texts("json", "each", "{tag}.json"));
        delivered(1);
        delivered(2);
        deliveries.recall(mara, "panel", 2, "wrong start number");
        assertThat(deliveries.overview("panel").last())
                .satisfies(last -> assertThat(last.number()).isEqualTo(1));
        assertThat(deliveries.found("panel", 2).reply().recalled()).isEqualTo("wrong start number");
        assertThatThrownBy(() -> deliveries.recall(mara, "panel", 2, "again")).hasMessageContaining("already");
        delivered(3);
    }

    @Test
    void twoEntriesOfOneKeyInAFileStopItUnlessEachTableHasItsOwn() throws IOException {
        ledger.takeIn(mara, "Bow", "key,en,fi\nramp.up,Bow up,Keula ylös\n", Arrival.SETTLED);
        products.create(
                mara,
                new Definition(0, "Both", "app", List.of("ramp", "bow"), List.of(new Selected("fi", null)), "fi"));
        recipes.add(mara, "both", "Web", texts("json", "each", "{tag}.json"));
        assertThatThrownBy(() -> deliveries.tried(mara, "both", (made, said) -> made.files()))
                .hasMessage(
                        "In a file of Web two entries would be called “ramp.up”; make a file per table, or of fewer tables.");
        Recipe first = recipes.of(products.find("both").id()).get(0);
        recipes.edit(
                mara,
                "both",
                new Recipe(first.id(), "Web", texts("json", "table", "{table}/{tag}.json"), true, first.version()));
        int files = deliveries.tried(mara, "both", (made, said) -> made.files().size());
        assertThat(files).isEqualTo(2);
    }

    @Test
    void aBeginningOfKeysIsLeftOutUnlessTwoWouldBeTheSame() throws IOException {
        Recipe.RecipeSettings whole = texts("csv", "one", "panel.csv");
        recipes.add(mara, "panel", "Texts", withPrefix(whole, "ramp."));
        delivered(1);
        String csv = new String(content(1).get("panel.csv"), StandardCharsets.UTF_8);
        assertThat(csv).contains("\nup;", "\ntank.full;").doesNotContain("ramp.up");
        ledger.takeIn(mara, "Ramp", PANEL + "up,Bow,Just up,Ylös,,,\n", Arrival.SETTLED);
        assertThat(deliver().message()).contains("two entries would be called “up”");
    }

    private static Recipe.RecipeSettings withPrefix(Recipe.RecipeSettings of, String prefix) {
        return new Recipe.RecipeSettings(
                of.kind(),
                of.format(),
                of.files(),
                of.pattern(),
                of.which(),
                of.languages(),
                of.tables(),
                of.texts(),
                of.hole(),
                of.charset(),
                of.delimiter(),
                of.guard(),
                of.nested(),
                of.ascii(),
                prefix,
                of.namespace(),
                of.numbers());
    }

    @Test
    void twoFilesOfOneNameAreAnErrorBeforeAnythingIsKept() {
        recipes.add(mara, "panel", "Texts", texts("json", "each", "texts.json"));
        assertThat(deliver().message()).startsWith("Two files would be called “texts.json”");
        assertThat(ledger.ask(Integer.class, "select count(*)::int from delivered"))
                .isZero();
    }

    @Test
    void whoIsAskedWhatAndWhatPeopleSeeInAnotherLanguage() {
        ProductAnswers.AnswerReply answer = answers.answer("panel", "number", "2", "ramp.down");
        assertThat(answer.language()).isEqualTo("et");
        assertThat(answer.borrowed()).isTrue();
        assertThat(answer.text()).containsEntry("other", "Ramppi alas");
        assertThat(answer.textSteps())
                .extracting(ProductAnswers.StepReply::said)
                .containsExactly("et has none", "fi: Ramppi alas");
        assertThat(answers.answer("panel", "number", "7", "").language()).isEqualTo("fi");
        ProductAnswers.AnswerReply none = answers.answer("panel", "tag", "et", "nothing");
        assertThat(none.text()).isNull();
        assertThat(none.textSteps())
                .extracting(ProductAnswers.StepReply::said)
                .containsExactly("No table of Panel has an entry “nothing”.");
        ProductAnswers.BorrowedPage page = answers.borrowed("panel", "", "", 0);
        assertThat(page.texts())
                .extracting(one -> one.key() + " " + one.language() + " " + one.from())
                .containsExactly("ramp.down et fi", "ramp.blocked pl fi");
        assertThat(answers.borrowed("panel", "pl", "blocked", 0).texts()).hasSize(1);
        assertThat(answers.borrowed("panel", "de", "", 0).texts()).isEmpty();
    }

    @Test
    void twoTellingTheSameTimeDeliverOnce() {
        recipes.add(mara, "panel", "Texts", texts("json", "each", "{tag}.json"));
        ledger.run(
                "insert into delivery_plan (product_id, gates, every_hours, next_at, person_id) select id, '{\"blockers\":\"hold\",\"share\":0,\"below\":\"hold\",\"stale\":\"go\"}', 2, now() - interval '5 hours', "
                        + mara + " from product");
        deliveries.beginDue();
        deliveries.beginDue();
        Awaitility.await().until(() -> deliveries.run("panel").orElseThrow(), run -> !run.open());
        deliveries.beginDue();
        assertThat(deliveries.history("panel", Integer.MAX_VALUE))
                .as("made up once")
                .hasSize(1);
        assertThat(ledger.ask(Boolean.class, "select next_at > now() from delivery_plan"))
                .isTrue();
        ledger.run("update delivery_plan set next_at = now() - interval '1 minute'");
        deliveries.beginDue();
        Awaitility.await().until(() -> deliveries.run("panel").orElseThrow(), run -> !run.open());
        assertThat(deliveries.history("panel", Integer.MAX_VALUE))
                .as("nothing had changed")
                .hasSize(1);
        assertThat(plans.of(products.find("panel").id()).lastSaid())
                .isEqualTo("Nothing had changed, so nothing was delivered.");
    }

    @Test
    void whoSeesThatNothingIsGoingOnSeesWhatCameOfIt() {
        recipes.add(mara, "panel", "Texts", texts("csv", "each", "{tag}.csv"));
        for (int number = 1; number <= 15; number++) {
            deliveries.start(mara, "panel");
            DeliveryService.DeliveryOverview seen = deliveries.overview("panel");
            while (seen.run() != null) {
                assertThat(seen.run().open()).as(seen.run().message()).isTrue();
                seen = deliveries.overview("panel");
            }
            assertThat(seen.nextNumber()).isEqualTo(number + 1);
            assertThat(seen.last()).isNotNull();
        }
    }

    @Test
    void whoeverAsksAtTheSameMomentDeliversOnce() {
        recipes.add(mara, "panel", "Texts", texts("json", "each", "{tag}.json"));
        ledger.run(
                "insert into delivery_plan (product_id, gates, times, zone, next_at, person_id) select id, '{\"blockers\":\"hold\",\"share\":0,\"below\":\"hold\",\"stale\":\"go\"}', '{06:30}', 'Europe/Helsinki', now() - interval '3 days', "
                        + mara + " from product");
        IntStream.range(0, 8).parallel().forEach(n -> deliveries.beginDue());
        Awaitility.await().until(() -> deliveries.run("panel").orElseThrow(), run -> !run.open());
        assertThat(ledger.ask(Integer.class, "select count(*)::int from run where kind = 'deliver'"))
                .isEqualTo(1);
        assertThat(ledger.ask(
                        String.class,
                        "select to_char(next_at at time zone 'Europe/Helsinki', 'HH24:MI') from delivery_plan"))
                .isEqualTo("06:30");
    }

    @Test
    void whoMayNotDeliverAnyMoreDeliversNothingByThemselves() {
        recipes.add(mara, "panel", "Texts", texts("json", "each", "{tag}.json"));
        long oskar = ledger.coordinator("oskar");
        plans.change(
                oskar, "panel", new Plans.DeliveryPlan(Gates.USUAL, false, 2, List.of(), "UTC", null, null, "", 0));
        ledger.run("update person set coordinator = false where id = " + oskar);
        ledger.run("update delivery_plan set next_at = now() - interval '1 minute'");
        deliveries.beginDue();
        RunReply run = Awaitility.await().until(() -> deliveries.run("panel").orElseThrow(), one -> !one.open());
        assertThat(run.message()).isEqualTo("Only a coordinator can deliver.");
        assertThat(deliveries.history("panel", Integer.MAX_VALUE)).isEmpty();
    }

    @Test
    void anotherGateLeavesTheNextTimeAsItIs() {
        plans.change(
                mara, "panel", new Plans.DeliveryPlan(Gates.USUAL, false, 48, List.of(), "UTC", null, null, "", 0));
        Plans.DeliveryPlan plan = plans.of(products.find("panel").id());
        ledger.run("update delivery_plan set next_at = next_at - interval '5 hours'");
        plans.change(
                mara,
                "panel",
                new Plans.DeliveryPlan(
                        new Gates("go", 0, "hold", "go"), false, 48, List.of(), "UTC", null, null, "", plan.version()));
        assertThat(plans.of(products.find("panel").id()).nextAt()).isBefore(plan.nextAt());
        assertThatThrownBy(() -> plans.change(
                        mara,
                        "panel",
                        new Plans.DeliveryPlan(
                                Gates.USUAL, false, 48, List.of(), "UTC", null, null, "", plan.version())))
                .as("an old version")
                .hasMessageContaining("meanwhile");
        for (Plans.DeliveryPlan bad : List.of(
                new Plans.DeliveryPlan(Gates.USUAL, false, 0, List.of(), "UTC", null, null, "", 2),
                new Plans.DeliveryPlan(Gates.USUAL, false, 2, List.of("06:30"), "UTC", null, null, "", 2),
                new Plans.DeliveryPlan(Gates.USUAL, false, null, List.of("25:00"), "UTC", null, null, "", 2),
                new Plans.DeliveryPlan(
                        Gates.USUAL, false, null, List.of("06:30"), "Nowhere/Else", null, null, "", 2))) {
            assertThatThrownBy(() -> plans.change(mara, "panel", bad)).hasMessageStartingWith("A schedule is");
        }
    }

    @Test
    void aNameThatLeadsOutOfItsFolderIsNone() {
        for (String pattern :
                List.of("../{tag}.json", "/etc/{tag}", "a/../../{tag}.json", "con.{tag}/nul", "{tag}\u0000.json")) {
            assertThatThrownBy(() -> deliveries.example("panel", texts("json", "each", pattern)))
                    .as(pattern)
                    .isInstanceOf(Refusal.class)
                    .hasMessageContaining("would be called");
        }
        Recipe.RecipeSettings java = kind("keys", "java", "Keys.java");
        assertThatThrownBy(() -> deliveries.example(
                        "panel",
                        new Recipe.RecipeSettings(
                                java.kind(),
                                java.format(),
                                java.files(),
                                java.pattern(),
                                java.which(),
                                java.languages(),
                                null,
                                java.texts(),
                                java.hole(),
                                java.charset(),
                                java.delimiter(),
                                false,
                                false,
                                false,
                                "keys",
                                "org.int.words",
                                false)))
                .hasMessageStartingWith("A Java package");
    }

    @Test
    void aRecipeIsRefusedForWhatItCannotBe() {
        assertThatThrownBy(() -> recipes.add(mara, "panel", "A", texts("po", "one", "x.po")))
                .hasMessage("A file of po holds one language; choose a file per language.");
        assertThatThrownBy(() -> recipes.add(mara, "panel", "A", texts("nothing", "one", "x")))
                .hasMessage("There is no format “nothing”.");
        assertThatThrownBy(() -> recipes.add(mara, "panel", "A", texts("json", "each", "{lang}.json")))
                .hasMessageContaining("{lang}");
        recipes.add(mara, "panel", "A", texts("json", "each", "{tag}.json"));
        assertThatThrownBy(() -> recipes.add(mara, "panel", "a", texts("json", "each", "{tag}.json")))
                .hasMessage("There is a recipe called “a” already.");
        Recipe kept = recipes.of(products.find("panel").id()).get(0);
        recipes.remove(mara, "panel", kept.id(), kept.version());
        assertThatThrownBy(() -> recipes.remove(mara, "panel", kept.id(), kept.version()))
                .hasMessageContaining("meanwhile");
        assertThatThrownBy(() -> deliveries.start(mara, "panel")).hasMessageContaining("no recipe");
    }
}
