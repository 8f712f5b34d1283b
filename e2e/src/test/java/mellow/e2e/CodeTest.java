package mellow.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Objects;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import mellow.server.people.PeopleService;
import mellow.server.product.ProductService;
import mellow.server.product.ProductService.Definition;
import mellow.server.product.ProductService.Selected;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.openqa.selenium.By;
import org.openqa.selenium.Keys;
import org.openqa.selenium.WebElement;
import org.springframework.jdbc.core.simple.JdbcClient;

/**
 * A coordinator brings the code of a site: what it lacks becomes entries, ten of its texts too, the ledger shows where they are used, and with the patch the code still
 * compiles and lacks nothing when it is looked through again.
 */
class CodeTest {

    private static final Path TREE = Path.of("../demo/code/booking-site");
    private static final String AT = "/products/harbour-site/code";

    @TempDir
    private Path folder = Path.of(".");

    private static void makeProduct() {
        DemoServer.takeIn(
                "Harbour site",
                "site.csv",
                "key,en,de\nform.01.who-is-travelling,Who is travelling?,\nform.18.number-plate,Number plate,Kennzeichen\nold.banner,Sail in May,\n"
                        .getBytes(StandardCharsets.UTF_8));
        long mirja =
                DemoServer.part(PeopleService.class).find("mirja").orElseThrow().id();
        DemoServer.part(ProductService.class)
                .create(
                        mirja,
                        new Definition(
                                0,
                                "Harbour site",
                                "site",
                                List.of("harbour-site"),
                                List.of(new Selected("de", null)),
                                null));
    }

    private static void copy(Path to) throws IOException {
        try (Stream<Path> all = Files.walk(TREE)) {
            for (Path file : all.filter(Files::isRegularFile).toList()) {
                Path target = to.resolve(TREE.relativize(file).toString());
                Files.createDirectories(Objects.requireNonNull(target.getParent()));
                Files.copy(file, target);
            }
        }
    }

    private Path zip(Path tree, String name) throws IOException {
        Path archive = folder.resolve(name);
        try (ZipOutputStream zip = new ZipOutputStream(Files.newOutputStream(archive));
                Stream<Path> all = Files.walk(tree)) {
            for (Path file : all.filter(Files::isRegularFile).sorted().toList()) {
                zip.putNextEntry(new ZipEntry("site/" + tree.relativize(file)));
                Files.copy(file, zip);
            }
        }
        return archive;
    }

    private static String run(Path in, String... command) throws IOException, InterruptedException {
        Process process = new ProcessBuilder(command)
                .directory(in.toFile())
                .redirectErrorStream(true)
                .start();
        String said = new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
        assertThat(process.waitFor(120, TimeUnit.SECONDS)).isTrue();
        return process.exitValue() == 0 ? "" : said;
    }

    private static String compiled(Path tree) throws IOException, InterruptedException {
        return run(tree, "node", ClientCompiler.path().toString(), "-p", tree.toString());
    }

    private static void look(Browser browser, Path archive, String said) {
        browser.driver()
                .findElement(By.cssSelector(".codepage input[type=file]"))
                .sendKeys(archive.toString());
        browser.see(".codepage .lookedat p", said);
    }

    @Test
    void whatTheCodeLacksIsTakenAndThePatchPutsTheKeysIn() throws Exception {
        makeProduct();
        Path tree = folder.resolve("tree");
        copy(tree);
        assertThat(compiled(tree)).as("the demo's site compiles").isEmpty();
        try (Browser browser = DemoServer.browse()) {
            browser.go("/products/harbour-site");
            browser.signIn("mirja", DemoServer.PASSWORD);
            browser.see("a", "Its code").click();
            browser.see(".codepage p", "was not looked through yet");
            look(browser, zip(tree, "first.zip"), "looked through first.zip");
            browser.see(".codepage .views button[aria-current]", "Missing keys");
            browser.see(".codepage thead .MuiCheckbox-root").click();
            browser.see(".codepage tbody input[aria-label='Source of form.05.you-pay-amount-now']")
                    .sendKeys(Keys.chord(Keys.CONTROL, "a"), "You pay {amount} now");
            browser.see(".does button:enabled", "entries").click();
            browser.see(".MuiSnackbarContent-message", "entries were made");
            browser.see(".codepage p", "The tables have every key that the code uses.");

            browser.see(".codepage .views button", "Texts without keys").click();
            browser.see(".codepage th.said");
            List<WebElement> boxes = browser.driver().findElements(By.cssSelector(".codepage tbody .MuiCheckbox-root"));
            assertThat(boxes.size()).isGreaterThan(10);
            // What no patch can reach is left to the programmer.
            int chosen = 0;
            for (int at = 0; at < boxes.size() && chosen < 10; at++) {
                String words = browser.driver()
                        .findElements(By.cssSelector(".codepage th.said"))
                        .get(at)
                        .getText();
                if (!words.contains("put together") && !words.contains("no patch")) {
                    boxes.get(at).click();
                    chosen++;
                }
            }
            assertThat(chosen).isEqualTo(10);
            browser.see(".does button:enabled", "Take 10").click();
            browser.see(".MuiSnackbarContent-message", "10 texts were taken");
            browser.see("a[download]", "Patch for the programmer");

            browser.go("/ledger?product=harbour-site&in=de&code=used&words=scripts");
            browser.see(".line .key");
            browser.see(".note.entry", "public/index.html:16");
            browser.go("/ledger?product=harbour-site&in=de&code=used&words=amount");
            browser.see(".line .key");
            browser.see(".codeplaces summary", "src/pages/form.tsx:").click();
            browser.see(".codeplaces code", "t('form.05.you-pay-amount-now', { sum: sailing.price })");
            browser.go("/ledger?product=harbour-site&in=de&code=unused");
            assertThat(browser.see(".line .key").getText()).isEqualTo("old.banner");

            String patch = (String) browser.later(
                    "fetch('/api/products/harbour-site/code/patch').then(r => r.text()).then(arguments[0])");
            Files.writeString(folder.resolve("site.patch"), patch);
            assertThat(run(
                            tree,
                            "patch",
                            "-p1",
                            "-i",
                            folder.resolve("site.patch").toString()))
                    .isEmpty();
            assertThat(compiled(tree)).as(patch).isEmpty();
            browser.go(AT);
            browser.see(".codepage .lookedat p", "first.zip");
            look(browser, zip(tree, "second.zip"), "looked through second.zip");
            browser.see(".codepage p", "The tables have every key that the code uses.");
            browser.see(".codepage p", "0 texts without keys new, 10 gone");
            assertThat(DemoServer.part(JdbcClient.class)
                            .sql("select count(*) from scan_upload")
                            .query(Integer.class)
                            .single())
                    .as("nothing of the code is kept")
                    .isZero();
        }
    }
}
