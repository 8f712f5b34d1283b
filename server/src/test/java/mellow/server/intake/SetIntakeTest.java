package mellow.server.intake;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import mellow.core.merge.Arrival;
import mellow.core.merge.ChangeKind;
import mellow.core.merge.Choice;
import mellow.server.cell.CellChange;
import mellow.server.common.Refusal;
import mellow.server.intake.Sets.FileChoice;
import mellow.server.intake.Sets.FileReply;
import mellow.server.intake.Sets.SetChoice;
import mellow.server.people.Level;
import mellow.server.run.RunService.Progress;
import mellow.server.support.Http;
import mellow.server.support.ServerTest;
import org.awaitility.Awaitility;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** Many files that are one table: dropped, decided, taken in, taken back. */
class SetIntakeTest extends ServerTest {

    @Autowired
    private Drops drops;

    @Autowired
    private IntakeService intakes;

    @Autowired
    private IntakeReplies replies;

    @Autowired
    private Previews previews;

    @Autowired
    private Http http;

    private long mara;
    private final Map<String, String> files = new LinkedHashMap<>();

    @BeforeEach
    void someone() {
        mara = ledger.coordinator("mara");
        files.putAll(SetFilesOf.yaml(List.of("en", "de", "fi", "pt-BR"), 10));
    }

    private DropReply drop(long person, Map<String, String> all) {
        long drop = drops.begin(person);
        all.forEach((path, content) -> drops.add(person, drop, path, content.getBytes(StandardCharsets.UTF_8)));
        DropReply first = drops.sort(person, drop);
        return first.intakes() != null
                ? first
                : Awaitility.await().until(() -> drops.reply(person, drop), reply -> reply.intakes() != null);
    }

    private long only(DropReply reply) {
        assertThat(reply.refused()).isEmpty();
        assertThat(reply.intakes()).hasSize(1);
        return reply.intakes().get(0).about().id();
    }

    private void take(long intake) {
        intakes.apply(mara, intake, Progress.UNWATCHED);
    }

    private Map<ChangeKind, Integer> would(long intake) {
        Map<ChangeKind, Integer> would = new TreeMap<>();
        previews.preview(mara, intake, false)
                .preview()
                .groups()
                .forEach(group -> would.put(group.kind(), group.count()));
        return would;
    }

    private Sets.SetReply set(long intake) {
        return replies.reply(mara, intake).set();
    }

    private FileReply file(long intake, String path) {
        return set(intake).files().stream()
                .filter(file -> file.path().equals(path))
                .findFirst()
                .orElseThrow();
    }

    private void decide(long intake, FileChoice... choices) {
        intakes.decideSet(
                mara, intake, new SetChoice(replies.reply(mara, intake).options(), List.of(choices)));
    }

    private int settled(String language) {
        return ledger.ask(
                Integer.class,
                "select coalesce(sum(v.entries), 0) from coverage v join language l on l.id = v.language_id where l.tag = '"
                        + language + "' and v.state = 3");
    }

    @Test
    void filesOfALanguageEachBecomeOneTable() {
        long intake = only(drop(mara, files));
        IntakeReply reply = replies.reply(mara, intake);
        assertThat(reply.about().fileName()).isEqualTo("locales/*.yml");
        assertThat(reply.options().where().newTable()).isEqualTo("Locales");
        assertThat(reply.options().where().source()).isEqualTo("en");
        assertThat(reply.options().where().arrival()).isEqualTo(Arrival.SETTLED);
        assertThat(reply.set().evidence()).isEqualTo("ENGLISH");
        assertThat(reply.set().blocked()).isNull();
        assertThat(reply.set().files()).extracting(FileReply::language).containsExactly("en", "de", "fi", "pt-BR");
        assertThat(reply.set().files().get(1).facts().counts().texts()).isEqualTo(10);
        assertThat(would(intake)).isEqualTo(Map.of(ChangeKind.NEW_ENTRIES, 10));

        take(intake);
        assertThat(ledger.entries("Locales")).hasSize(10);
        assertThat(ledger.cell("deck.k3", "pt-BR")).isEqualTo("settled pt-BR text 3");
        assertThat(settled("de")).isEqualTo(10);
        assertThat(ledger.ask(Integer.class, "select count(*) from master_file"))
                .isEqualTo(4);
        assertThat(replies.all(mara, Long.MAX_VALUE).get(0).files()).isEqualTo(4);
    }

    @Test
    void theSameFilesChangeNothingAndAnEditionExactlyItsEdits() {
        take(only(drop(mara, files)));
        long again = only(drop(mara, files));
        assertThat(replies.reply(mara, again).into().tableName()).isEqualTo("Locales");
        assertThat(set(again).evidence()).isEqualTo("TABLE");
        assertThat(would(again)).isEmpty();

        files.computeIfPresent("locales/de.yml", (path, text) -> text.replace("de text 4", "de Text vier"));
        files.computeIfPresent("locales/en.yml", (path, text) -> text.replace("en text 7", "en text seven"));
        files.computeIfPresent("locales/fi.yml", (path, text) -> text.replace("    k2: fi text 2\n", ""));
        files.computeIfPresent("locales/en.yml", (path, text) -> text + "    k11: en text 11\n");
        long edited = only(drop(mara, files));
        assertThat(would(edited))
                .isEqualTo(Map.of(
                        ChangeKind.NEW_ENTRIES, 1,
                        ChangeKind.SOURCES_REWRITTEN, 1,
                        ChangeKind.TEXTS_REPLACED, 1,
                        ChangeKind.EMPTIED_IN_FILE, 1));
        assertThat(file(edited, "locales/fi.yml").facts().counts().missing()).isEqualTo(2);
        take(edited);
        assertThat(ledger.cell("deck.k4", "de")).isEqualTo("settled de Text vier");
        assertThat(ledger.cell("deck.k7", "de")).isEqualTo("stale de text 7");
        assertThat(ledger.cell("deck.k2", "fi")).isEqualTo("settled fi text 2");
    }

    @Test
    void whatWasSettledHereStaysAndTheFilesTextIsOffered() {
        take(only(drop(mara, files)));
        ledger.allowOwn("Locales", "de");
        ledger.change(mara, "deck.k1", "de", CellChange.text(CellChange.Action.PUT_FORWARD, 1, "hier"));
        files.computeIfPresent("locales/de.yml", (path, text) -> text.replace("de text 1\n", "dort\n"));
        long edited = only(drop(mara, files));
        assertThat(would(edited)).isEqualTo(Map.of(ChangeKind.CONFLICTS, 1));
        take(edited);
        assertThat(ledger.cell("deck.k1", "de")).isEqualTo("offered hier");
    }

    @Test
    void takenBackAsOneTheTableAndItsPathsAreGone() {
        long intake = only(drop(mara, files));
        take(intake);
        intakes.undo(mara, intake, false);
        assertThat(replies.reply(mara, intake).about().status()).isEqualTo("undone");
        assertThat(ledger.ask(Integer.class, "select count(*) from entry where removed_at is null"))
                .isZero();
        assertThat(ledger.ask(Integer.class, "select count(*) from master_file"))
                .isZero();
        assertThat(ledger.ask(Integer.class, "select count(*) from ledger_table where removed_at is null"))
                .isZero();
    }

    @Test
    void anEditionTakenBackLeavesWhatThePathsHeldBefore() {
        take(only(drop(mara, files)));
        String held = "select string_agg(path || file_id, ' ' order by path) from master_file";
        String before = ledger.ask(String.class, held);
        files.computeIfPresent("locales/de.yml", (path, text) -> text.replace("de text 4", "anders"));
        files.put("locales/cy.yml", "cy:\n  deck:\n    k1: Un\n");
        long edited = only(drop(mara, files));
        take(edited);
        assertThat(ledger.ask(String.class, held)).isNotEqualTo(before);
        intakes.undo(mara, edited, false);
        assertThat(ledger.ask(String.class, held)).isEqualTo(before);
        assertThat(ledger.cell("deck.k4", "de")).isEqualTo("settled de text 4");
        assertThat(ledger.cell("deck.k1", "cy")).isEqualTo("untranslated");
    }

    @Test
    void aLanguageMoreJoinsByItselfAndOneThatDidNotComeIsNamed() {
        take(only(drop(mara, files)));
        long welsh = only(drop(mara, Map.of("locales/cy.yml", "cy:\n  deck:\n    k1: Un\n")));
        assertThat(replies.reply(mara, welsh).into().tableName()).isEqualTo("Locales");
        assertThat(would(welsh)).isEqualTo(Map.of(ChangeKind.TEXTS_ADDED, 1));
        take(welsh);
        assertThat(ledger.cell("deck.k1", "cy")).isEqualTo("settled Un");

        files.remove("locales/fi.yml");
        long without = only(drop(mara, files));
        assertThat(set(without).absent()).extracting(Sets.AbsentReply::language).containsExactlyInAnyOrder("fi", "cy");
        assertThat(would(without)).isEmpty();
    }

    @Test
    void aFileThatCannotBeReadWaitsInItsRowOrStaysOut() {
        files.put("locales/fi.yml", "fi:\n  deck:\n\tk1: no\n");
        long intake = only(drop(mara, files));
        FileReply broken = file(intake, "locales/fi.yml");
        assertThat(broken.language()).isEqualTo("fi");
        assertThat(broken.facts().blocked()).contains("locales/fi.yml, line 3").contains("expected");
        assertThat(set(intake).waiting()).isEqualTo(1);
        assertThatThrownBy(() -> take(intake))
                .isInstanceOf(Refusal.class)
                .hasMessageContaining("locales/fi.yml, line 3");
        assertThat(ledger.ask(Integer.class, "select count(*) from ledger_table"))
                .isZero();

        decide(intake, new FileChoice("locales/fi.yml", "fi", false, true, null, null));
        assertThat(set(intake).blocked()).isNull();
        take(intake);
        assertThat(ledger.ask(Integer.class, "select count(*) from master_file"))
                .isEqualTo(3);
        assertThat(settled("fi")).isZero();
    }

    @Test
    void anotherSourceIsOneChoiceAndAllFilesFollow() {
        long intake = only(drop(mara, files));
        IntakeOptions guessed = replies.reply(mara, intake).options();
        IntakeOptions german = guessed.going(guessed.where().from("de"));
        intakes.decideSet(
                mara,
                intake,
                new SetChoice(
                        german,
                        List.of(
                                new FileChoice("locales/en.yml", "en", false, false, null, null),
                                new FileChoice("locales/de.yml", "de", true, false, null, null))));
        assertThat(set(intake).files().get(0).path()).isEqualTo("locales/de.yml");
        take(intake);
        assertThat(ledger.ask(String.class, "select source from entry where key = 'deck.k1'"))
                .isEqualTo("de text 1");
        assertThat(ledger.cell("deck.k1", "en")).isEqualTo("settled en text 1");
    }

    @Test
    void keysThatTheSourceLacksStayOutUnlessSomebodyAddsThem() {
        files.computeIfPresent("locales/de.yml", (path, text) -> text + "    k77: nur %{name}\n");
        long intake = only(drop(mara, files));
        assertThat(file(intake, "locales/de.yml").facts().counts().unknown()).isEqualTo(1);
        assertThat(would(intake)).containsEntry(ChangeKind.WITHOUT_SOURCE, 1);
        previews.choose(mara, intake, new Previews.ChoiceRequest(ChangeKind.WITHOUT_SOURCE, Choice.TAKE, null, null));
        take(intake);
        assertThat(ledger.cell("deck.k77", "de")).isEqualTo("settled nur %{name}");
        assertThat(ledger.ask(String.class, "select source from entry where key = 'deck.k77'"))
                .isEmpty();
    }

    @Test
    void whatTheSourceLostIsRemovedThoughTranslationsStillHaveIt() {
        take(only(drop(mara, files)));
        files.computeIfPresent("locales/en.yml", (path, text) -> text.replace("    k5: en text 5\n", ""));
        long edited = only(drop(mara, files));
        assertThat(would(edited)).isEqualTo(Map.of(ChangeKind.GONE_FROM_FILE, 1));
        take(edited);
        assertThat(ledger.entries("Locales")).hasSize(9);
    }

    @Test
    void twoFilesInTheLanguageOfTheSourceThatDisagreeAskWhichIsWhich() {
        Map<String, String> bundles = new LinkedHashMap<>();
        bundles.put("text.properties", "a=Open\nb=Shut\n");
        bundles.put("text_de.properties", "a=Auf\nb=Zu\n");
        bundles.put("text_en.properties", "a=Open\nb=Closed\n");
        long intake = only(drop(mara, bundles));
        assertThat(file(intake, "text_en.properties").facts().blocked())
                .isEqualTo(
                        "text_en.properties is in en like the file of the sources, and says 1 text otherwise; choose its language, or leave it out.");
        decide(intake, new FileChoice("text_en.properties", "en-GB", false, false, null, null));
        assertThat(set(intake).blocked()).isNull();
        take(intake);
        assertThat(ledger.cell("b", "en-GB")).isEqualTo("settled Closed");
    }

    @Test
    void languagesWithNothingYetAreLanguages() {
        Map<String, String> bundles = new LinkedHashMap<>();
        bundles.put("l/cy.yml", "cy:\n");
        bundles.put("l/de.yml", "# Nothing yet\n");
        bundles.put("l/en.yml", "en:\n  a: Open\n");
        bundles.put("l/fi.yml", "");
        bundles.put("l/pl.yml", "pl: {}\n");
        long intake = only(drop(mara, bundles));
        assertThat(set(intake).blocked()).isNull();
        take(intake);
        assertThat(
                        ledger.ask(
                                String.class,
                                "select string_agg(l.tag, ' ' order by l.tag) from table_language t join language l on l.id = t.language_id"))
                .isEqualTo("cy de fi pl");
    }

    @Test
    void japaneseWritesOneFormWhereEnglishWritesTwo() {
        Map<String, String> json = new LinkedHashMap<>();
        json.put("en/app.json", "{\"days_one\": \"{{n}} day\", \"days_other\": \"{{n}} days\", \"up\": \"Up\"}");
        json.put("ja/app.json", "{\"days_other\": \"{{n}}\u65e5\", \"up\": \"\u4e0a\"}");
        long intake = only(drop(mara, json));
        assertThat(would(intake)).isEqualTo(Map.of(ChangeKind.NEW_ENTRIES, 2));
        take(intake);
        assertThat(ledger.cell("days", "ja")).isEqualTo("settled {{n}}\u65e5");
    }

    @Test
    void severalSetsInOneDropAreSeveralTablesWithNamesOfTheirOwn() {
        Map<String, String> all = new LinkedHashMap<>();
        for (String folder : List.of("crane", "winch")) {
            all.put(folder + "/messages.properties", folder + ".a=A\n" + folder + ".b=B\n");
            all.put(folder + "/messages_de.properties", folder + ".a=AA\n");
        }
        all.put("crane/build.gradle", "plugins { }");
        all.put("crane/app.json", "{\"port\": \"8080\"}");
        DropReply reply = drop(mara, all);
        assertThat(reply.intakes().stream()
                        .map(one -> replies.reply(mara, one.about().id())
                                .options()
                                .where()
                                .newTable()))
                .containsExactly("Crane messages", "Winch messages");
        assertThat(reply.refused())
                .extracting(DropReply.NotTaken::file)
                .containsExactly("crane/app.json", "crane/build.gradle");
        assertThat(reply.refused().get(0).readable()).isTrue();
        assertThat(reply.refused().get(1).readable()).isFalse();

        long alone = drops.takeAlone(mara, reply.id(), "crane/app.json");
        assertThat(replies.reply(mara, alone).options().where().newTable()).isEqualTo("App");
    }

    @Test
    void anotherProductsFilesOfTheSameNamesAreAnotherTable() {
        take(only(drop(mara, files)));
        Map<String, String> other = new LinkedHashMap<>();
        other.put("locales/en.yml", "en:\n  shop: Shop\n  cart: Cart\n");
        other.put("locales/de.yml", "de:\n  shop: Laden\n  cart: Korb\n");
        long intake = only(drop(mara, other));
        assertThat(replies.reply(mara, intake).options().where().newTable()).isEqualTo("Locales 2");
        take(intake);
        // Both come again, each to its own.
        assertThat(would(only(drop(mara, other)))).isEmpty();
        assertThat(would(only(drop(mara, files)))).isEmpty();
    }

    @Test
    void contributorsOfferAndAddNoLanguages() {
        take(only(drop(mara, files)));
        long lina = ledger.person("lina", "de", Level.CONTRIBUTOR);
        files.computeIfPresent("locales/de.yml", (path, text) -> text.replace("de text 4", "Vier"));
        files.computeIfPresent("locales/fi.yml", (path, text) -> text.replace("fi text 4", "Nelj\u00e4"));
        files.computeIfPresent("locales/en.yml", (path, text) -> text.replace("en text 4", "en Four"));
        files.put("locales/cy.yml", "cy:\n  deck:\n    k1: Un\n");
        long intake = only(drop(lina, files));
        intakes.apply(lina, intake, Progress.UNWATCHED);
        assertThat(ledger.cell("deck.k4", "de")).isEqualTo("offered de text 4");
        assertThat(ledger.cell("deck.k4", "fi")).isEqualTo("settled fi text 4");
        assertThat(ledger.ask(String.class, "select source from entry where key = 'deck.k4'"))
                .isEqualTo("en text 4");
        assertThat(ledger.ask(Integer.class, "select count(*) from table_language"))
                .isEqualTo(3);
    }

    @Test
    void twoSourcesOrAFileOfAnotherSetAreRefused() {
        long intake = only(drop(mara, files));
        assertThatThrownBy(() -> decide(
                        intake,
                        new FileChoice("locales/en.yml", "en", true, false, null, null),
                        new FileChoice("locales/de.yml", "de", true, false, null, null)))
                .hasMessageContaining("Only one file");
        assertThatThrownBy(() -> decide(intake, new FileChoice("locales/xx.yml", "de", false, false, null, null)))
                .hasMessageContaining("locales/xx.yml");
        assertThatThrownBy(() -> decide(intake, new FileChoice("locales/de.yml", "not one", false, false, null, null)))
                .hasMessageContaining("no language tag");
        List<FileChoice> none = new ArrayList<>();
        set(intake)
                .files()
                .forEach(file ->
                        none.add(new FileChoice(file.path(), file.language(), file.source(), true, null, null)));
        decide(intake, none.toArray(FileChoice[]::new));
        assertThatThrownBy(() -> take(intake)).hasMessageContaining("Every file is left out");
    }

    @Test
    void aSheetWithoutAColumnOfKeysComesInToBeCorrectedAndAnEmptyFileSaysSo() {
        Map<String, String> sheets = new LinkedHashMap<>();
        sheets.put("no-keys.csv", "en,de\nOpen,Auf\n");
        sheets.put("l/en.yml", "en:\n  a: A\n");
        sheets.put("l/de.yml", "de:\n  a: B\n");
        DropReply reply = drop(mara, sheets);
        assertThat(reply.intakes()).hasSize(2);
        assertThat(replies.reply(mara, reply.intakes().get(0).about().id())
                        .reading()
                        .trouble()
                        .blocked())
                .contains("no column of keys");
        DropReply empty = drop(mara, Map.of("empty.csv", ""));
        assertThat(empty.intakes()).isEmpty();
        assertThat(empty.refused()).singleElement().satisfies(one -> assertThat(one.why())
                .contains("empty.csv"));
    }
}
