package mellow.server.asset;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayOutputStream;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import mellow.core.merge.Arrival;
import mellow.server.asset.AssetSetReply.AssetFileReply;
import mellow.server.common.Refusal;
import mellow.server.intake.Drops;
import mellow.server.intake.IntakeService;
import mellow.server.people.Level;
import mellow.server.run.RunService.Progress;
import mellow.server.support.AssetsMade;
import mellow.server.support.Http;
import mellow.server.support.ServerTest;
import org.awaitility.Awaitility;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.http.HttpMethod;
import org.springframework.test.web.servlet.request.MockMvcRequestBuilders;
import tools.jackson.databind.JsonNode;

/** Pictures and sounds by the folder: named by patterns, corrected, compared, taken in, replaced, and never lost or taken for what they are not. */
class AssetSetTest extends ServerTest {

    @Autowired
    private AssetSets sets;

    @Autowired
    private AssetSetStanding standing;

    @Autowired
    private AssetSetRows rows;

    @Autowired
    private Drops drops;

    @Autowired
    private IntakeService intakes;

    @Autowired
    private Http http;

    private long mara;
    private final Map<String, byte[]> files = new LinkedHashMap<>();

    @BeforeEach
    void someone() {
        mara = ledger.coordinator("mara");
        files.put("media/logo_en.png", AssetsMade.png(40, 20, 1));
        files.put("media/logo_fi.png", AssetsMade.png(40, 20, 2));
        files.put("media/bell_en.wav", AssetsMade.wav(500, 440));
        files.put("media/bell_fi.wav", AssetsMade.wav(2000, 440));
        files.put("media/bell_de.wav", AssetsMade.wav(500, 220));
    }

    private long drop(long person, Map<String, byte[]> all) {
        long drop = drops.begin(person);
        all.forEach((path, content) -> drops.add(person, drop, path, content));
        return drop;
    }

    private AssetSetReply made(long person, Map<String, byte[]> all) {
        long set = sets.make(person, drop(person, all), null);
        return Awaitility.await()
                .until(
                        () -> standing.reply(person, set),
                        reply -> reply.run() != null && !reply.run().open());
    }

    private AssetSetReply decided(AssetSetReply set, AssetSetOptions options, AssetChoice... choices) {
        sets.decide(mara, set.id(), set.version(), options, List.of(choices));
        return standing.reply(mara, set.id());
    }

    private void take(AssetSetReply set) {
        intakes.apply(mara, sets.compare(mara, set.id(), set.version()), Progress.UNWATCHED);
    }

    private static AssetSetOptions into(AssetSetReply set, String table) {
        AssetSetOptions now = set.options();
        return new AssetSetOptions(now.patterns(), table, null, now.source(), Arrival.SETTLED);
    }

    private JsonNode row(String key, String languages) throws Exception {
        return http.get(mara, "/api/rows?ids=" + ledger.entry(key) + "&in=" + languages)
                .body()
                .path(0);
    }

    private static AssetFileReply file(AssetSetReply set, String path) {
        return set.files().stream()
                .filter(file -> file.path().equals(path))
                .findFirst()
                .orElseThrow();
    }

    @Test
    void whatWasTakenInSaysSoUntilItIsTakenBack() {
        AssetSetReply set =
                made(mara, Map.of("logo_en.png", AssetsMade.png(4, 2, 1), "logo_de.png", AssetsMade.png(4, 2, 2)));
        assertThat(set.taken()).isFalse();
        long intake = sets.compare(mara, set.id(), set.version());
        assertThat(standing.reply(mara, set.id()).taken()).isFalse();
        intakes.apply(mara, intake, Progress.UNWATCHED);
        assertThat(standing.reply(mara, set.id()).taken()).isTrue();
        intakes.undo(mara, intake, false);
        assertThat(standing.reply(mara, set.id()).taken()).isFalse();
    }

    @Test
    void aFolderIsNamedComparedAndTakenIn() throws Exception {
        AssetSetReply set = made(mara, files);
        assertThat(set.options().patterns()).containsExactly("media/{key}_{language}.{ext}");
        assertThat(set.options().newTable()).isEqualTo("Media");
        assertThat(set.entries()).isEqualTo(2);
        assertThat(set.blocked()).isNull();
        assertThat(set.languages())
                .extracting(one -> one.language() + " " + one.there() + " " + one.missing())
                .containsExactly("en 2 []", "de 1 [logo]", "fi 2 []");
        assertThat(file(set, "media/bell_fi.wav").facts().milliseconds()).isEqualTo(2000);
        assertThat(http.get(
                                mara,
                                "/api/assets/" + file(set, "media/logo_en.png").file())
                        .bytes())
                .isEqualTo(files.get("media/logo_en.png"));
        take(set);
        JsonNode logo = row("logo", "fi,de");
        assertThat(logo.path("shape").asString()).isEqualTo("asset");
        assertThat(logo.path("source").asString()).isEqualTo("logo_en.png");
        String fi = logo.path("cells").path(0).path("forms").path("file").asString();
        assertThat(logo.path("assets").path(fi).path("width").asInt()).isEqualTo(40);
        assertThat(ledger.ask(Integer.class, "select count(*)::int from stored_file where kind = 'asset'"))
                .isEqualTo(5);
        assertThat(ledger.cell("bell", "fi")).startsWith("settled");
        assertThat(
                        ledger.ask(
                                String.class,
                                "select string_agg(e.key || ' ' || l.tag, ', ') from finding_mask m join entry e on e.id = m.entry_id join language l on l.id = m.language_id"))
                .as("four times as long as the source")
                .isEqualTo("bell fi");
    }

    @Test
    void theSameFolderAgainChangesNothingAndAReplacedSourceMakesTheOthersStale() {
        take(made(mara, files));
        AssetSetReply again = made(mara, files);
        again = decided(again, into(again, "media"));
        assertThat(again.files()).extracting(AssetFileReply::file).doesNotHaveDuplicates();
        take(again);
        assertThat(ledger.ask(Integer.class, "select count(*)::int from cell_story"))
                .isEqualTo(3);
        assertThat(ledger.ask(Integer.class, "select count(*)::int from stored_file where kind = 'asset'"))
                .isEqualTo(5);
        files.put("media/logo_en.png", AssetsMade.png(40, 20, 9));
        AssetSetReply changed = made(mara, files);
        take(decided(changed, into(changed, "media")));
        assertThat(ledger.cell("logo", "fi")).startsWith("stale");
        assertThat(ledger.cell("bell", "fi")).startsWith("settled");
    }

    @Test
    void aPartOfAFolderRemovesNothing() {
        take(made(mara, files));
        AssetSetReply part = made(mara, Map.of("media/logo_fi.png", AssetsMade.png(40, 20, 7)));
        part = decided(part, into(part, "media"));
        assertThat(part.languages())
                .extracting(one -> one.language() + " " + one.there())
                .contains("en 1", "fi 1", "de 0");
        take(part);
        assertThat(ledger.entries("Media")).hasSize(2);
        assertThat(ledger.cell("bell", "de")).startsWith("settled");
    }

    @Test
    void patternsAndFilesAreCorrected() {
        files.clear();
        files.put("a/logo.english.png", AssetsMade.png(4, 4, 1));
        files.put("a/logo.suomi.png", AssetsMade.png(4, 4, 2));
        files.put("a/map.png", AssetsMade.png(4, 4, 3));
        AssetSetReply set = made(mara, files);
        AssetSetOptions options =
                new AssetSetOptions(List.of("a/{key}.{language}.{ext}"), null, "Signs", "en", Arrival.PENCILLED);
        set = decided(set, options);
        assertThat(file(set, "a/logo.suomi.png").language()).isEqualTo("fi");
        assertThat(file(set, "a/map.png").leftOut()).isTrue();
        set = decided(set, options, new AssetChoice(2, null, "fi", false));
        assertThat(set.blocked()).isEqualTo("a/map.png goes in, and nothing tells its entry.");
        set = decided(set, options, new AssetChoice(2, "logo", "fi", false));
        assertThat(set.blocked()).contains("both for “logo” in fi");
        AssetSetReply blocked = set;
        assertThatThrownBy(() -> sets.compare(mara, blocked.id(), blocked.version()))
                .hasMessageContaining("both for");
        set = decided(set, options, new AssetChoice(2, "map", "en", false));
        assertThat(set.blocked()).isNull();
        take(set);
        assertThat(ledger.cell("logo", "fi")).startsWith("pencilled");
        assertThat(ledger.entry("map")).isPositive();
        assertThatThrownBy(
                        () -> decided(blocked, new AssetSetOptions(List.of("{key}"), null, "x", "en", Arrival.SETTLED)))
                .hasMessageContaining("meanwhile");
        AssetSetReply now = standing.reply(mara, set.id());
        assertThatThrownBy(() -> decided(now, new AssetSetOptions(List.of("{key}"), null, "x", "en", Arrival.SETTLED)))
                .hasMessageContaining("{language}");
        assertThatThrownBy(() -> decided(now, options, new AssetChoice(99, null, null, true)))
                .hasMessageContaining("no such file");
        assertThatThrownBy(() -> decided(now, options, new AssetChoice(0, null, "not a language", null)))
                .isInstanceOf(Refusal.class);
        assertThatThrownBy(() -> decided(now, options, new AssetChoice(0, "a\0b", null, null)))
                .isInstanceOf(Refusal.class);
    }

    @Test
    void comparedTwiceTheFirstIntakeIsLeft() {
        AssetSetReply set = made(mara, files);
        long first = sets.compare(mara, set.id(), set.version());
        AssetSetReply then = standing.reply(mara, set.id());
        assertThatThrownBy(() -> sets.compare(mara, set.id(), set.version())).hasMessageContaining("meanwhile");
        long second = sets.compare(mara, set.id(), then.version());
        assertThat(ledger.ask(String.class, "select status from intake where id = " + first))
                .isEqualTo("left");
        intakes.apply(mara, second, Progress.UNWATCHED);
        assertThat(ledger.entries("Media")).hasSize(2);
    }

    @Test
    void brokenFilesAndThoseThatAreNoneStayOutWithASentence() {
        files.put("media/broken_en.png", Arrays.copyOf(AssetsMade.png(40, 20, 3), 45));
        files.put("media/named_en.png", "a text".getBytes(StandardCharsets.UTF_8));
        files.put("media/cut_en.ogg", "OggS".getBytes(StandardCharsets.US_ASCII));
        files.put("media/drawn_en.svg", AssetsMade.svg(4, 4, "<script>x()</script><g onclick='x()'/>"));
        AssetSetReply set = made(mara, files);
        assertThat(file(set, "media/broken_en.png").why()).contains("broken");
        assertThat(file(set, "media/named_en.png").why()).contains("promises PNG");
        assertThat(file(set, "media/cut_en.ogg").why()).contains("ends before");
        assertThat(file(set, "media/cut_en.ogg").leftOut()).isTrue();
        AssetFileReply drawn = file(set, "media/drawn_en.svg");
        assertThat(drawn.gone()).hasSize(2);
        assertThat(set.blocked()).isNull();
        take(set);
        assertThat(ledger.entries("Media")).hasSize(3);
        assertThat(ledger.ask(
                        String.class,
                        "select convert_from(content, 'UTF8') from stored_file_part where file_id = " + drawn.file()))
                .doesNotContain("script")
                .doesNotContain("onclick");
    }

    @Test
    void anArchiveAmongTextsIsSortedApart() throws Exception {
        ByteArrayOutputStream zipped = new ByteArrayOutputStream();
        try (ZipOutputStream zip = new ZipOutputStream(zipped)) {
            zip.putNextEntry(new ZipEntry("texts/en.properties"));
            zip.write("a=Ramp\nb=Door\n".getBytes(StandardCharsets.UTF_8));
            for (Map.Entry<String, byte[]> one : files.entrySet()) {
                zip.putNextEntry(new ZipEntry(one.getKey()));
                zip.write(one.getValue());
            }
        }
        long drop = drop(mara, Map.of("all.zip", zipped.toByteArray()));
        Http.Reply sorted = Awaitility.await()
                .until(
                        () -> http.json(mara, HttpMethod.POST, "/api/drops/" + drop + "/sort", "{}"),
                        reply -> reply.body().hasNonNull("intakes"));
        assertThat(sorted.body().path("assets").asInt()).isEqualTo(5);
        assertThat(sorted.body().path("refused").size()).isZero();
        assertThat(sorted.body().path("intakes").size()).isEqualTo(1);
        assertThat(standing.reply(mara, sets.make(mara, drop, null)).id()).isPositive();
    }

    @Test
    void onlyWhoBroughtThemAndCoordinatorsSeeThem() throws Exception {
        long ben = ledger.person("ben", "fi", Level.CONTRIBUTOR);
        long eve = ledger.person("eve", "fi", Level.CONTRIBUTOR);
        AssetSetReply mine = made(ben, files);
        String address = "/api/asset-sets/" + mine.id();
        String file = "/api/assets/" + mine.files().get(0).file();
        String choice = "{\"version\":" + mine.version()
                + ",\"options\":{\"patterns\":[],\"newTable\":\"x\",\"source\":\"en\",\"arrival\":\"SETTLED\"},\"files\":[]}";
        assertThat(http.get(ben, address).status()).isEqualTo(200);
        assertThat(http.get(mara, address).status()).isEqualTo(200);
        assertThat(http.get(eve, address).status()).isEqualTo(403);
        assertThat(http.get(ben, file).status()).isEqualTo(200);
        assertThat(http.get(mara, file).status()).isEqualTo(200);
        assertThat(http.get(eve, file).status()).isEqualTo(404);
        assertThat(http.json(eve, HttpMethod.PUT, address, choice).status()).isEqualTo(403);
        assertThat(http.json(eve, HttpMethod.POST, address + "/intake?version=" + mine.version(), "{}")
                        .status())
                .isEqualTo(403);
        assertThat(http.json(eve, HttpMethod.POST, "/api/asset-sets?drop=" + drop(ben, files), "{}")
                        .status())
                .isEqualTo(404);
        assertThat(http.get(ben, "/api/asset-sets/999999").status()).isEqualTo(404);
    }

    @Test
    void aContributorsPicturesAreOffersAndMakeNothingNew() {
        take(made(mara, files));
        long ben = ledger.person("ben", "fi", Level.CONTRIBUTOR);
        files.put("media/logo_fi.png", AssetsMade.png(40, 20, 77));
        files.put("media/logo_de.png", AssetsMade.png(40, 20, 78));
        files.put("media/new_en.png", AssetsMade.png(40, 20, 79));
        AssetSetReply set = made(ben, files);
        sets.decide(ben, set.id(), set.version(), into(set, "media"), List.of());
        intakes.apply(ben, sets.compare(ben, set.id(), set.version() + 1), Progress.UNWATCHED);
        assertThat(ledger.cell("logo", "fi")).startsWith("offered");
        assertThat(ledger.entries("Media")).hasSize(2);
        assertThat(ledger.ask(Integer.class, "select count(*)::int from stored_file where kind = 'asset'"))
                .as("only what is offered became an asset")
                .isEqualTo(6);
    }

    @Test
    void aTextNamesNoFileThatIsNoAsset() throws Exception {
        take(made(mara, files));
        long brought = ledger.ask(Long.class, "select min(id) from stored_file where kind is null");
        String change =
                "{\"action\":\"PUT_FORWARD\",\"version\":0,\"meaningConfirmed\":false,\"forms\":{\"other\":\"x.png\",\"file\":\"%s\"}}";
        String cell = "/api/entries/" + ledger.entry("logo") + "/cells/de/changes";
        for (String none : List.of(Long.toString(brought), "99999999", "x", "-1", "99999999999999999999")) {
            assertThat(http.json(mara, HttpMethod.POST, cell, change.formatted(none))
                            .code())
                    .as(none)
                    .isEqualTo("no-such-file");
        }
        String forged =
                "{\"mellowLedger\":1,\"sourceLanguage\":\"en\",\"languages\":[\"en\"],\"entries\":[{\"key\":\"forged\",\"shape\":\"asset\",\"texts\":{\"en\":{\"other\":\"x.png\",\"file\":\""
                        + brought + "\"}}}]}";
        assertThatThrownBy(() -> ledger.takeIn(
                        mara, "Media", "x.ledger.json", forged.getBytes(StandardCharsets.UTF_8), Arrival.SETTLED))
                .hasMessageContaining("no such file");
        assertThat(ledger.entries("Media")).hasSize(2);
    }

    @Test
    void theSameContentIsKeptOnceWhateverItsName() throws Exception {
        byte[] sign = AssetsMade.png(9, 9, 5);
        String one = http.bytes(mara, "/api/assets?name=a.png", sign)
                .body()
                .path("file")
                .asString();
        assertThat(http.bytes(mara, "/api/assets?name=b.png", sign)
                        .body()
                        .path("file")
                        .asString())
                .isEqualTo(one);
        assertThat(http.bytes(mara, "/api/assets?name=c.png", "no".getBytes(StandardCharsets.UTF_8))
                        .code())
                .isEqualTo("not-as-named");
        files.clear();
        files.put("s/sign_en.png", sign);
        files.put("s/sign_fi.png", sign);
        files.put("s/other_en.png", AssetsMade.png(9, 9, 6));
        files.put("s/other_fi.png", AssetsMade.png(9, 9, 6));
        AssetSetReply set = made(mara, files);
        assertThat(file(set, "s/sign_fi.png").file()).asString().isEqualTo(one);
        assertThat(file(set, "s/other_fi.png").file())
                .isEqualTo(file(set, "s/other_en.png").file());
    }

    @Test
    void aSoundIsSentInPartsAndADrawingMayDoNothing() throws Exception {
        String sound = http.bytes(mara, "/api/assets?name=a.wav", AssetsMade.wav(100, 440))
                .body()
                .path("file")
                .asString();
        Http.Reply part = http.send(
                mara, MockMvcRequestBuilders.get("/api/assets/" + sound).header("Range", "bytes=4-7"));
        assertThat(part.status()).isEqualTo(206);
        assertThat(part.bytes()).hasSize(4);
        assertThat(part.header("Content-Type")).isEqualTo("audio/wav");
        String drawing = http.bytes(mara, "/api/assets?name=a.svg", AssetsMade.svg(1, 1, "<g/>"))
                .body()
                .path("file")
                .asString();
        assertThat(http.get(mara, "/api/assets/" + drawing).header("Content-Security-Policy"))
                .contains("default-src 'none'");
    }

    @Test
    void whatWasNeverTakenInIsForgottenAndTheRestStays() throws Exception {
        AssetSetReply waiting = made(mara, files);
        sets.compare(mara, waiting.id(), waiting.version());
        AssetSetReply left =
                made(mara, Map.of("x/y_en.png", AssetsMade.png(3, 3, 8), "x/y_fi.png", AssetsMade.png(3, 3, 9)));
        Instant later = Instant.now().plus(Duration.ofDays(31));
        assertThat(rows.forget(later)).isEqualTo(1);
        assertThat(http.get(mara, "/api/asset-sets/" + left.id()).status()).isEqualTo(404);
        assertThat(http.get(mara, "/api/asset-sets/" + waiting.id()).status()).isEqualTo(200);
    }

    @Test
    void namesThatLeadElsewhereDoNotComeIn() {
        long drop = drops.begin(mara);
        assertThatThrownBy(() -> drops.add(mara, drop, "../x_en.png", AssetsMade.png(1, 1, 1)))
                .isInstanceOf(Refusal.class);
        assertThatThrownBy(() -> sets.make(mara, drop, null)).hasMessageContaining("1 to 5000");
    }

    @Autowired
    private AssetCatchUp catchUp;

    @Test
    void whatWasStoredBeforeAnybodyLookedIsCheckedOnceItIsKnown() {
        take(made(mara, files));
        ledger.run("delete from asset_fact");
        ledger.run("delete from finding_mask");
        catchUp.catchUp();
        assertThat(ledger.ask(Integer.class, "select count(*)::int from finding_mask"))
                .isEqualTo(1);
        catchUp.catchUp();
    }

    @Test
    void whatWasSaidOfATablesFilesIsProposedForTheNext() {
        AssetSetReply first = made(mara, files);
        take(decided(
                first,
                new AssetSetOptions(List.of("{folder}/{key}_{language}.{ext}"), null, "Signs", "en", Arrival.SETTLED)));
        assertThat(ledger.entry("media/logo")).isPositive();
        AssetSetReply next = made(mara, Map.of("media/logo_fi.png", AssetsMade.png(40, 20, 12)));
        next = decided(next, new AssetSetOptions(List.of(), "signs", null, "en", Arrival.SETTLED));
        assertThat(next.options().patterns()).containsExactly("{folder}/{key}_{language}.{ext}");
        assertThat(next.files().get(0).key()).isEqualTo("media/logo");
        rows.forget(Instant.now().plus(Duration.ofDays(31)));
        AssetSetReply last = made(mara, Map.of("media/logo_fi.png", AssetsMade.png(40, 20, 13)));
        last = decided(last, new AssetSetOptions(List.of(), "signs", null, "en", Arrival.SETTLED));
        assertThat(last.proposed()).containsExactly("{folder}/{key}_{language}.{ext}");
    }
}
