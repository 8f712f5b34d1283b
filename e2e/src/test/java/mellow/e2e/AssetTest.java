package mellow.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.TreeMap;
import java.util.stream.Stream;
import java.util.zip.ZipEntry;
import java.util.zip.ZipInputStream;
import mellow.server.people.PeopleService;
import mellow.server.product.ProductService;
import mellow.server.product.ProductService.Definition;
import mellow.server.product.ProductService.Selected;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.openqa.selenium.By;
import org.openqa.selenium.Keys;
import org.openqa.selenium.WebElement;

/**
 * A coordinator drops a folder of sixty pictures and sounds, corrects how their names are read, sees what lacks, takes them in, hears one in the ledger, and delivers
 * them named by their languages.
 */
class AssetTest {

    private static final Path MEDIA = Path.of("../demo/media");

    @TempDir
    private Path folder = Path.of(".");

    private Path copied() throws IOException {
        Path to = folder.resolve("quayside");
        try (Stream<Path> all = Files.walk(MEDIA)) {
            for (Path file : all.filter(Files::isRegularFile).toList()) {
                Path target = to.resolve(MEDIA.relativize(file).toString());
                Files.createDirectories(Objects.requireNonNull(target.getParent()));
                Files.copy(file, target);
            }
        }
        return to;
    }

    private static WebElement field(Browser browser, String label) {
        return browser.until(
                d -> d.findElements(By.xpath("//label[text()='" + label + "']/following::input[1]")).stream()
                        .filter(WebElement::isEnabled)
                        .findFirst()
                        .orElse(null),
                label);
    }

    private static Map<String, byte[]> unzipped(byte[] archive) throws IOException {
        Map<String, byte[]> files = new TreeMap<>();
        try (ZipInputStream zip = new ZipInputStream(new ByteArrayInputStream(archive))) {
            for (ZipEntry entry = zip.getNextEntry(); entry != null; entry = zip.getNextEntry()) {
                files.put(entry.getName(), zip.readAllBytes());
            }
        }
        return files;
    }

    @Test
    void aFolderIsNamedTakenInHeardAndDelivered() throws Exception {
        Path dropped = copied();
        try (Browser browser = DemoServer.browse()) {
            browser.go("/intake");
            browser.signIn("mirja", DemoServer.PASSWORD);
            browser.see(".drop button", "Choose a folder");
            browser.driver()
                    .findElement(By.id("folder"))
                    .sendKeys(dropped.toAbsolutePath().toString());
            browser.see(".assetset .sentence", "60 pictures and sounds");
            browser.see(".assetset .picker", "the new table Quayside");
            WebElement voices = browser.until(
                    d -> d.findElements(By.cssSelector(".pattern input")).stream()
                            .filter(one -> one.getDomProperty("value").contains("voices"))
                            .findFirst()
                            .orElse(null),
                    "the pattern of the voices");
            voices.sendKeys(Keys.chord(Keys.CONTROL, "a"), "quayside/{folder}/{language}/{key}.{ext}", Keys.ENTER);
            browser.until(
                    d -> d.findElements(By.cssSelector(".assetfiles input")).stream()
                                    .anyMatch(one -> "voices/talk.01".equals(one.getDomProperty("value")))
                            ? Boolean.TRUE
                            : null,
                    "the corrected entry");
            browser.see(".assetset .lacking", "signs/galley");
            browser.see("button:enabled", "See what they would do").click();
            browser.see(".footer button:enabled", "Take in 17 entries").click();
            browser.see("h1", "Took");
            browser.go("/ledger?table=quayside&in=de,fi");
            browser.see(".assetname", "exit_de.png");
            assertThat(
                            (Boolean)
                                    browser.later(
                                            "const done = arguments[0]; const img = document.querySelector('.cell img.thumb'); img.decode().then(() => done(img.naturalWidth === 96), () => done(false))"))
                    .as("the picture is shown")
                    .isTrue();
            heard(browser);
            deliver(browser);
            assertThat(browser.complaints()).isEmpty();
        }
    }

    private static void heard(Browser browser) {
        browser.go("/ledger?table=quayside&in=de&words=talk.06");
        browser.see(".cell .soundlength");
        browser.until(
                d -> Boolean.TRUE.equals(
                                browser.script(
                                        "return [...document.querySelectorAll('.cell .wave rect')].some((bar) => Number(bar.getAttribute('height')) > 10)"))
                        ? Boolean.TRUE
                        : null,
                "the sound to be drawn");
        browser.see(".cell.current");
        browser.press(" ");
        browser.see(".cell .playbutton.on");
        browser.gone(".cell .playbutton.on");
        assertThat(browser.count(".sound .wrong")).isZero();
    }

    private static void deliver(Browser browser) throws IOException {
        long mirja =
                DemoServer.part(PeopleService.class).find("mirja").orElseThrow().id();
        DemoServer.part(ProductService.class)
                .create(
                        mirja,
                        new Definition(
                                0,
                                "Quayside",
                                "game",
                                List.of("quayside"),
                                List.of(new Selected("de", null), new Selected("fi", null)),
                                null));
        browser.go("/ledger?table=quayside&in=fi&only=untranslated");
        browser.see(".borrowed", "people get English");
        browser.go("/deliveries/quayside");
        browser.see(".delivering button", "New recipe").click();
        browser.see("[role=dialog] input");
        browser.press("Pictures");
        browser.until(
                        d -> d
                                .findElements(
                                        By.xpath(
                                                "//*[@role='dialog']//*[contains(@class, 'MuiInputLabel')]/following::*[@role='combobox'][1]"))
                                .stream()
                                .findFirst()
                                .orElse(null),
                        "the kind")
                .click();
        browser.see("[role=option]", "pictures and sounds").click();
        browser.gone("[role=listbox]");
        WebElement pattern = browser.see("[role=dialog] input[value='{tag}/{key}.{ext}']");
        pattern.sendKeys(Keys.chord(Keys.CONTROL, "a"), "media/{key}_{language}.{ext}");
        browser.see("[role=dialog] button", "Save").click();
        browser.gone("[role=dialog]");
        browser.see(".delivering button", "Deliver no. 1").click();
        browser.see(".past th", "1");
        browser.see(".past a", "Download").click();
        Map<String, byte[]> files = unzipped(browser.downloaded("quayside-1.zip"));
        assertThat(files).containsKey("media/signs/exit_de.png").doesNotContainKey("media/signs/galley_fi.png");
        assertThat(files.get("media/signs/exit_de.png"))
                .isEqualTo(Files.readAllBytes(MEDIA.resolve("signs/exit_de.png")));
        assertThat(files.get("media/voices/talk.06_de.ogg"))
                .isEqualTo(Files.readAllBytes(MEDIA.resolve("voices/de/talk.06.ogg")));
    }
}
