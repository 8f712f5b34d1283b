package mellow.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Stream;
import mellow.core.merge.Arrival;
import mellow.server.bundle.BundleSettings;
import mellow.server.people.PeopleService;
import mellow.server.product.ProductService;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.openqa.selenium.By;
import org.openqa.selenium.support.ui.Select;

/** The examples of products that fetch their texts, as people would run them. */
class ExamplesTest {

    /** What stands above, and of one, three and five tickets, by language. */
    private static final Map<String, List<String>> SAID = Map.of(
            "de", List.of("Einsteigen", "1 Fahrschein", "3 Fahrscheine", "5 Fahrscheine"),
            "fi", List.of("Laivaannousu", "1 lippu", "3 lippua", "5 lippua"),
            "et", List.of("Pardaleminek", "1 pilet", "3 piletit", "5 piletit"),
            "pl", List.of("Wejście na pokład", "1 bilet", "3 bilety", "5 biletów"),
            "pt-BR", List.of("Embarque", "1 bilhete", "3 bilhetes", "5 bilhetes"),
            "ar", List.of("الصعود", "تذكرة واحدة", "3 تذاكر", "5 تذاكر"),
            "ja", List.of("", "乗船券1枚", "乗船券3枚", "乗船券5枚"));

    @TempDir
    private Path folder;

    private static void language(Browser page, String tag) {
        new Select(page.see("#languages")).selectByValue(tag);
        page.see("html[lang='" + tag + "']");
    }

    private static void tickets(Browser page, String button, String said) {
        page.see(button).click();
        page.see("#tickets", said);
    }

    @Test
    void thePageSwitchesLanguagesMirrorsCountsAndRemembersAndGoesOnWithoutItsServer() throws Exception {
        ApartServer server = ApartServer.start(folder);
        try (Browser page = new Browser(server.address())) {
            page.go("/examples/?language=99");
            page.see("html[lang='de']");
            page.see("h1", "Einsteigen");
            // It is gone when the page is loaded again.
            page.script("window.here = true");
            for (String tag : SAID.keySet()) {
                List<String> said = Objects.requireNonNull(SAID.get(tag));
                language(page, tag);
                if (!said.get(0).isEmpty()) {
                    page.see("h1", said.get(0));
                }
                page.see("#tickets", said.get(1));
                page.see("#more").click();
                tickets(page, "#more", said.get(2));
                page.see("#more").click();
                tickets(page, "#more", said.get(3));
                for (int i = 0; i < 4; i++) {
                    page.see("#fewer").click();
                }
            }
            language(page, "ar");
            page.see("html[dir=rtl]");
            int title = page.see("h1").getLocation().x;
            assertThat(title).isGreaterThan(page.see("#languages").getLocation().x);
            assertThat(page.script("return window.here")).isEqualTo(true);

            page.go("/examples/");
            page.see("html[lang=ar]");
            server.kill();
            language(page, "pl");
            page.see("h1", "Wejście na pokład");
            page.see("#state", "The server is away; these texts were kept.");
            page.see("#tickets", "1 bilet");
        } finally {
            server.kill();
        }
    }

    @Test
    void whatIsOnlyOfferedIsMarkedAndComesInForceWhileThePageIsOpen() {
        DemoServer.takeIn(
                "Gangway",
                "gangway.csv",
                "key,en,ja,ar-EG\nboarding.title,Up the gangway,,\nsailing.delayed,{minutes} late,,تأخير {minutes} دقيقة\n"
                        .getBytes(StandardCharsets.UTF_8));
        long mirja =
                DemoServer.part(PeopleService.class).find("mirja").orElseThrow().id();
        DemoServer.part(ProductService.class)
                .create(
                        mirja,
                        new ProductService.Definition(
                                0,
                                "Gangway app",
                                "app",
                                List.of("gangway"),
                                List.of(new ProductService.Selected("ja", 1), new ProductService.Selected("ar-EG", 2)),
                                null));
        DemoServer.part(BundleSettings.class).serve(mirja, "gangway-app");
        String token;
        try (Browser desk = DemoServer.browse()) {
            desk.go("/deliveries/gangway-app");
            desk.signIn("mirja", DemoServer.PASSWORD);
            desk.see(".delivering button", "Let the product fetch its texts").click();
            desk.see("[role=dialog] form.hearer input").sendKeys("Beside the product");
            desk.see("[role=dialog] form.hearer label", "Also what was not delivered yet")
                    .click();
            desk.see("[role=dialog] button", "Make a token").click();
            token = desk.see("[role=dialog] .MuiAlert-message code").getText();
            desk.see("[role=dialog] button", "I have kept it").click();
            try (Browser page = DemoServer.browse()) {
                page.go("/examples/?product=gangway-app&language=ja#preview=" + token);
                page.see("#missing", "tickets.count");
                page.see("h1:not(.offered)", "Up the gangway");
                DemoServer.takeIn("tadao", "Gangway", "g.csv", gangway("乗り口"), Arrival.OFFERED);
                page.see("h1.offered", "乗り口");
                DemoServer.takeIn("mirja", "Gangway", "g2.csv", gangway("乗船口"), Arrival.SETTLED);
                page.see("h1:not(.offered)", "乗船口");
                language(page, "ar-EG");
                // In Egypt's own digits (CLDR).
                page.see("main p", "تأخير ٢٥ دقيقة");
                assertThat(page.complaints()).isEmpty();

                desk.see("[role=dialog] a", "Who asked for what").click();
                desk.see(".fetchings th", "Beside the product");
                desk.see(".fetchings td", "Changes while they happen");
                assertThat(desk.complaints()).isEmpty();
            }
        }
    }

    private static byte[] gangway(String title) {
        return ("key,en,ja\nboarding.title,Up the gangway," + title + "\n").getBytes(StandardCharsets.UTF_8);
    }

    @Test
    void theProgramSaysItsTextsAndKeepsThemForWhenNobodyAnswers() throws Exception {
        String tickets = "tickets.count=";
        ApartServer server = ApartServer.start(folder);
        String before = server.address();
        try {
            assertThat(said(before, "pl", "boarding.title", tickets + 1, tickets + 3, tickets + 5, tickets + 22))
                    .contains("Wejście na pokład", "1 bilet", "3 bilety", "5 biletów", "22 bilety")
                    .anyMatch(line -> line.startsWith("Language: pl, delivery "));
            assertThat(said(before, "ar", tickets + 2, tickets + 3)).contains("تذكرتان", "3 تذاكر");
            assertThat(said(before, "77", "no.such.key"))
                    .contains("no.such.key", "Missing: no.such.key")
                    .anyMatch(line -> line.startsWith("Language: de, "));
            Path kept = folder.resolve("kept/deckside-pl.json");
            long written = Files.getLastModifiedTime(kept).toMillis();
            assertThat(said(before, "pl", tickets + 3)).contains("3 bilety");
            assertThat(Files.getLastModifiedTime(kept).toMillis())
                    .as("nothing new")
                    .isEqualTo(written);
        } finally {
            server.kill();
        }
        assertThat(said(before, "pl", tickets + 3))
                .contains("The ledger does not answer; these texts were kept.", "3 bilety");
        assertThat(said(before, "fi", tickets + 3)).contains("There are no texts yet.");
    }

    private List<String> said(String address, String language, String... what) throws IOException {
        Path source = Stream.iterate(Path.of("").toAbsolutePath(), Objects::nonNull, Path::getParent)
                .map(at -> at.resolve("docs/examples/java/FerryTexts.java"))
                .filter(Files::exists)
                .findFirst()
                .orElseThrow();
        List<String> line = new ArrayList<>(List.of(
                Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                "-Dfile.encoding=UTF-8",
                "-Dstdout.encoding=UTF-8",
                source.toString(),
                address,
                "deckside",
                language,
                folder.resolve("kept").toString()));
        line.addAll(List.of(what));
        Process program = new ProcessBuilder(line).redirectErrorStream(true).start();
        return new String(program.getInputStream().readAllBytes(), StandardCharsets.UTF_8)
                .lines()
                .toList();
    }

    @Test
    void picturesOfHowFarALanguageIsAreShownOnPagesOfOthers() {
        try (Browser page = DemoServer.browse()) {
            page.go("/api/shown/deckside/table");
            page.see("caption", "Deckside");
            assertThat(page.driver().findElements(By.cssSelector("tbody tr"))).hasSize(7);
            assertThat(page.see("tbody tr:nth-child(6) bdi").getAttribute("dir"))
                    .isEqualTo("rtl");
            page.go("/api/shown/deckside/fi.svg?theme=dark");
            assertThat(page.script("return document.documentElement.getAttribute('aria-label')"))
                    .asString()
                    .startsWith("suomi: ");
        }
    }
}
