package mellow.server.code;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.tuple;

import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import mellow.core.scan.CodeScanner;
import mellow.core.scan.KnownKeys;
import mellow.core.scan.ReadyHabits;
import mellow.server.code.CodeLists.Asked;
import mellow.server.code.CodeReplies.CodeOverview;
import mellow.server.code.CodeReplies.DifferingText;
import mellow.server.code.CodeReplies.MisfitValues;
import mellow.server.code.CodeReplies.MissingKey;
import mellow.server.code.CodeReplies.ScanReply;
import mellow.server.code.CodeSettings.CodeHabit;
import mellow.server.code.CodeSettings.CodeRewrite;
import mellow.server.code.CodeUses.CodePlace;
import mellow.server.common.Refusal;
import mellow.server.people.Level;
import mellow.server.support.Http;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import tools.jackson.databind.json.JsonMapper;

/** What a look through code tells: about keys, about entries, about texts without keys, and what changed since the last. */
class ScanTest extends CodeCase {

    @Autowired
    Http http;

    @Autowired
    CodeUses uses;

    @Autowired
    ScanUpkeep upkeep;

    @Test
    void tellsHowTheCodeStandsToTheTables() {
        ScanReply done = look();
        assertThat(done.status()).isEqualTo("done");
        assertThat(done)
                .extracting(ScanReply::files, ScanReply::lines, ScanReply::compared)
                .containsExactly(3, 12L, false);
        assertThat(entries("used")).containsExactly("menu.title", "seat.row");
        assertThat(entries("maybe")).containsExactly("lamp.off", "lamp.on");
        assertThat(entries("tests")).containsExactly("menu.end");
        assertThat(entries("unused")).containsExactly("deck.old", "deck.sun");
        assertThat(lists.missing("site", Asked.FIRST))
                .extracting(MissingKey::key, MissingKey::places, MissingKey::line, MissingKey::note)
                .containsExactly(tuple("menu.finish", 2, 4, "at the very end"));
        assertThat(lists.differing("site"))
                .extracting(DifferingText::key, DifferingText::said, DifferingText::path)
                .containsExactly(tuple("menu.title", "Menu of today", "index.html"));
        assertThat(lists.misfits("site"))
                .extracting(MisfitValues::key, MisfitValues::missing, MisfitValues::needless)
                .containsExactly(tuple("seat.row", List.of("all"), List.of()));
        assertThat(said("open")).containsExactly("Come aboard", "Choose your cabin", "Sun deck");
        CodeOverview all = lists.overview("site");
        assertThat(List.of(
                        all.used(),
                        all.maybe(),
                        all.tests(),
                        all.unused(),
                        all.missing(),
                        all.differing(),
                        all.misfits(),
                        all.open()))
                .containsExactly(2, 2, 1, 2, 1, 1, 1, 3);
    }

    @Test
    void anEntryKnowsItsPlaces() {
        look();
        assertThat(uses.of(ledger.entry("menu.title")))
                .extracting(CodePlace::productName, CodePlace::path, CodePlace::line, CodePlace::around, CodePlace::how)
                .containsExactly(
                        tuple("Site", "index.html", 1, "<h1 data-text=\"menu.title\">Menu of today</h1>", "used"),
                        tuple("Site", "src/menu.ts", 2, "t('menu.title');", "used"));
        assertThat(uses.of(ledger.entry("menu.end"))).extracting(CodePlace::how).containsExactly("tests");
        assertThat(uses.of(ledger.entry("deck.old"))).isEmpty();
    }

    @Test
    void nothingOfTheCodeIsKeptButPlaces() {
        look();
        assertThat(ledger.ask(Integer.class, "select count(*)::int from scan_upload"))
                .isZero();
        long broken = scanning.archive(mara, "site", "broken.zip", "PK no archive".getBytes(StandardCharsets.UTF_8));
        runs.await(Scanning.RUN, broken, LONG);
        assertThat(lists.scan("site", broken))
                .extracting(ScanReply::status, ScanReply::message)
                .containsExactly("failed", "There is no file in the archive.");
        upkeep.forget(Instant.now().plusSeconds(100_000));
        assertThat(ledger.ask(Integer.class, "select count(*)::int from scan_upload"))
                .isZero();
        assertThat(entries("used")).as("what was found before stays").isNotEmpty();
    }

    @Test
    void comparesWithTheLookBefore() {
        look();
        code.put("src/menu.ts", "\n\nt('menu.start');\nalert('Choose your cabin');\nalert('Mind the gap');\n");
        code.remove("index.html");
        code.put("start.html", "<p>Come aboard</p>\n");
        ScanReply again = look();
        assertThat(again.compared()).isTrue();
        assertThat(again)
                .extracting(
                        ScanReply::keysNew,
                        ScanReply::keysGone,
                        ScanReply::textsNew,
                        ScanReply::textsGone,
                        ScanReply::textsMoved)
                .as("menu.start came; menu.title, menu.finish and seat.row went; one text came, one went, one moved")
                .containsExactly(1, 3, 1, 1, 1);
        assertThat(texts("open").stream()
                        .filter(CodeReplies.TextWithoutKey::fresh)
                        .map(CodeReplies.TextWithoutKey::text))
                .containsExactly("Mind the gap");
        assertThat(entries("unused")).contains("menu.title", "seat.row", "deck.old");
        assertThat(ledger.ask(Integer.class, "select count(distinct scan_id)::int from scan_use"))
                .isEqualTo(2);
        look();
        assertThat(ledger.ask(Integer.class, "select count(distinct scan_id)::int from scan_use"))
                .isEqualTo(2);
        assertThat(ledger.ask(Integer.class, "select count(*)::int from scan")).isEqualTo(3);
    }

    @Test
    void sinceWhenAnEntryIsUnusedStays() {
        look();
        ledger.run("update code_use set since = since - interval '3 days'");
        code.put("src/more.ts", "t('deck.old');\n");
        look();
        assertThat(lists.entries("site", "unused", "", 0)).singleElement().satisfies(one -> assertThat(one.since())
                .isBefore(Instant.now().minusSeconds(200_000)));
        assertThat(lists.entries("site", "used", "", 0))
                .filteredOn(one -> one.key().equals("deck.old"))
                .singleElement()
                .satisfies(one -> assertThat(one.since()).isAfter(Instant.now().minusSeconds(10_000)));
    }

    @Test
    void aProgramTellsWhatItFoundElsewhere() {
        StringBuilder lines = new StringBuilder();
        CodeScanner scanner = new CodeScanner(ReadyHabits.of("site").habits(), KnownKeys.NONE);
        code.forEach((path, text) -> lines.append(JsonMapper.shared()
                        .writeValueAsString(scanner.scan(path, text.getBytes(StandardCharsets.UTF_8))))
                .append('\n'));
        long scan = scanning.found(
                mara,
                "site",
                "site/",
                new Scanning.Seen(3, 12, 4, 1, 0),
                lines.toString().getBytes(StandardCharsets.UTF_8));
        runs.await(Scanning.RUN, scan, LONG);
        assertThat(lists.scan("site", scan))
                .extracting(ScanReply::status, ScanReply::files, ScanReply::ignored, ScanReply::binary)
                .containsExactly("done", 3, 4, 1);
        assertThat(missing()).containsExactly("menu.finish");
        assertThat(said("open")).containsExactly("Choose your cabin", "Sun deck", "Come aboard");
    }

    @Test
    void whatNoProgramOfOursWritesIsRefusedInOneSentence() {
        for (String bad : List.of(
                "{}",
                "null",
                "[1]",
                "{\"path\":\"a\"}",
                "no json",
                file("../a", "", ""),
                file("/etc/passwd", "", ""),
                file("a", "null", ""),
                file("a", "{}", ""),
                file(
                        "a",
                        "{\"key\":\"k\",\"how\":\"WHOLE\",\"folded\":false,\"note\":\"\",\"place\":{\"line\":1,\"column\":1}}",
                        ""),
                file("a", "", "{}"),
                file("a", "", text(101, 0, 0)),
                file("a", "", text(90, 5, 2)),
                file("a", "", text(99_999, 0, 0)),
                "{\"path\":\"a\\u0000\",\"uses\":[],\"texts\":[],\"imports\":{\"after\":0,\"line\":\"\",\"existing\":\"\"}}")) {
            long scan = scanning.found(
                    mara, "site", "x", new Scanning.Seen(1, 1, 0, 0, 0), bad.getBytes(StandardCharsets.UTF_8));
            runs.await(Scanning.RUN, scan, LONG);
            assertThat(lists.scan("site", scan).status()).as(bad).isEqualTo("failed");
            assertThat(lists.scan("site", scan).message()).as(bad).containsAnyOf("Line 1", "NUL");
        }
        assertThatThrownBy(() -> lists.missing("site", Asked.FIRST)).isInstanceOf(Refusal.class);
    }

    private static String file(String path, String uses, String texts) {
        return "{\"path\":\"" + path + "\",\"lines\":1,\"test\":false,\"uses\":[" + uses + "],\"texts\":[" + texts
                + "],\"imports\":{\"after\":0,\"line\":\"\",\"existing\":\"\"}}";
    }

    private static String text(int likelihood, int from, int to) {
        return "{\"text\":\"t\",\"kind\":\"TEXT\",\"likelihood\":" + likelihood
                + ",\"composed\":false,\"place\":{\"line\":1,\"column\":1,\"around\":\"\"},\"spot\":{\"lines\":\"\",\"from\":"
                + from
                + ",\"to\":" + to + ",\"last\":false}}";
    }

    @Test
    void anArchiveThatNamesFilesOutsideIsRefused() {
        assertThat(look(zip(Map.of("../../etc/x.ts", "t('a')"))).message())
                .isEqualTo("The archive names a file outside of itself, “../../etc/x.ts”.");
    }

    @Test
    void theFolderThatEverythingLiesInIsNotPartOfThePaths() {
        look(zip(Map.of(
                "site-main/src/a.ts",
                "t('menu.nothing')",
                "site-main/.gitignore",
                "dist\n",
                "site-main/dist/b.ts",
                "t('menu.none')")));
        assertThat(lists.missing("site", Asked.FIRST))
                .extracting(MissingKey::key, MissingKey::path)
                .containsExactly(tuple("menu.nothing", "src/a.ts"));
    }

    @Test
    void howCodeNamesKeysCanBeSaidOtherwise() {
        CodeSettings ready = settings.of("site");
        assertThat(ready.version()).isZero();
        CodeSettings own = new CodeSettings(
                0,
                List.of(new CodeHabit(
                        "own", null, null, null, null, null, "pages", null, "*.html", "data-text=\"(?P<key>[^\"]+)\"")),
                List.of(new CodeRewrite("*.html", "text", "#{key}#", "")));
        assertThat(settings.change(mara, "site", own).version()).isEqualTo(1);
        look();
        assertThat(entries("used")).containsExactly("menu.title");
        assertThatThrownBy(() -> settings.change(mara, "site", own))
                .isInstanceOf(Refusal.class)
                .hasMessageContaining("Someone changed these settings");
        for (CodeHabit bad : List.of(
                habit("own", "*.html", "(?P<key>[^"),
                habit("own", "*.html", "no group"),
                habit("own", null, "(?P<key>a)"),
                habit("mark", null, null),
                habit("spell", null, null))) {
            assertThatThrownBy(() -> settings.change(mara, "site", new CodeSettings(1, List.of(bad), List.of())))
                    .as(bad.toString())
                    .isInstanceOf(Refusal.class);
        }
        assertThat(settings.of("site").habits()).isEqualTo(own.habits());
    }

    private static CodeHabit habit(String kind, String files, String pattern) {
        return new CodeHabit(kind, null, null, null, null, null, "x", null, files, pattern);
    }

    @Test
    void onlyACoordinatorSendsCode() throws Exception {
        long wanda = ledger.person("wanda", "de", Level.REVIEWER);
        byte[] archive = zip(code);
        assertThat(http.bytes(wanda, "/api/products/site/code/scans?name=x", archive)
                        .status())
                .isEqualTo(403);
        assertThat(http.bytes(
                                wanda,
                                "/api/products/site/code/findings?name=x&files=0&lines=0&ignored=0&binary=0&large=0",
                                archive)
                        .status())
                .isEqualTo(403);
        assertThat(http.bytes(mara, "/api/products/nowhere/code/scans?name=x", archive)
                        .status())
                .isEqualTo(404);
        assertThat(http.bytes(mara, "/api/products/site/code/scans?name=%20", archive)
                        .status())
                .isEqualTo(422);
        assertThat(http.bytes(mara, "/api/products/site/code/scans?name=x", archive)
                        .status())
                .isEqualTo(202);
        assertThat(ledger.ask(Integer.class, "select count(*)::int from scan")).isEqualTo(1);
        runs.await(Scanning.RUN, ledger.ask(Long.class, "select id from scan"), LONG);
        assertThat(http.get(wanda, "/api/products/site/code/missing")
                        .body()
                        .path(0)
                        .path("key")
                        .asString())
                .isEqualTo("menu.finish");
        assertThat(http.get(wanda, "/api/products/site/code/missing?after=menu.finish")
                        .body()
                        .size())
                .isZero();
        assertThat(http.get(wanda, "/api/products/site/code/patch").status()).isEqualTo(200);
    }

    @Test
    void theLedgerShowsWhatNoCodeUses() throws Exception {
        look();
        assertThat(http.get(mara, "/api/scope?table=booking&code=unused")
                        .body()
                        .path("deltas")
                        .size())
                .as("deck.old and deck.sun")
                .isEqualTo(2);
        assertThat(http.get(mara, "/api/scope?table=booking&code=used")
                        .body()
                        .path("deltas")
                        .size())
                .isEqualTo(2);
        assertThat(http.get(mara, "/api/scope?table=booking&code=often").code()).isEqualTo("unknown-use");
        ledger.run("delete from product_table");
        assertThat(http.get(mara, "/api/scope?table=booking&code=unused")
                        .body()
                        .path("deltas")
                        .size())
                .as("of a table that the product uses no more nothing is said")
                .isZero();
        ledger.run("insert into product_table select p.id, t.id, 0 from product p, ledger_table t");
        ledger.run("update product set removed_at = now()");
        assertThat(http.get(mara, "/api/scope?table=booking&code=unused")
                        .body()
                        .path("deltas")
                        .size())
                .as("of a product that is there no more nothing is said")
                .isZero();
    }

    @Test
    void whoIsNoCoordinatorAnyMoreLooksThroughNothing() {
        byte[] archive = zip(code);
        ledger.run("update person set coordinator = false");
        assertThatThrownBy(() -> scanning.archive(mara, "site", "a.zip", archive))
                .isInstanceOf(Refusal.class);
        ledger.run("update person set coordinator = true");
        ledger.run("insert into scan (product_id, person_id, name, begun_at) select id, " + mara
                + ", 'a', now() from product");
        long scan = ledger.ask(Long.class, "select max(id) from scan");
        ledger.run("update person set coordinator = false");
        runs.start(
                Scanning.RUN,
                scan,
                mara,
                "{\"archive\":true,\"seen\":{\"files\":0,\"lines\":0,\"ignored\":0,\"binary\":0,\"large\":0}}");
        runs.await(Scanning.RUN, scan, LONG);
        assertThat(lists.scan("site", scan).message()).isEqualTo("Only a coordinator can look through code.");
    }
}
