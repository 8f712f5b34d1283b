package mellow.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.zip.ZipEntry;
import java.util.zip.ZipInputStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.openqa.selenium.By;
import org.openqa.selenium.Keys;
import org.openqa.selenium.WebElement;

/** A whole product in one drop, on the first day: from nothing to the board, a new edition, out again, a language more; and the same by command. */
class SetTest {

    private static final int KEYS = 1_300;

    @TempDir
    private Path folder;

    private static void bring(Browser browser, List<Path> files) {
        browser.see("button", "Choose files");
        browser.driver()
                .findElement(By.id("file"))
                .sendKeys(String.join("\n", files.stream().map(Path::toString).toList()));
    }

    private static void press(Browser browser, String selector, String words) {
        browser.until(
                        d -> d.findElements(By.cssSelector(selector)).stream()
                                .filter(one -> one.isDisplayed()
                                        && one.isEnabled()
                                        && one.getText().contains(words))
                                .findFirst()
                                .orElse(null),
                        "to press " + words)
                .sendKeys(Keys.ENTER);
    }

    private static void takeIn(Browser browser) {
        press(browser, ".footer button", "Take in");
        browser.see(".footer a", "See it on the board");
    }

    private static Map<String, String> unzipped(byte[] archive) throws IOException {
        Map<String, String> files = new LinkedHashMap<>();
        try (ZipInputStream zip = new ZipInputStream(new ByteArrayInputStream(archive))) {
            for (ZipEntry entry = zip.getNextEntry(); entry != null; entry = zip.getNextEntry()) {
                files.put(entry.getName(), new String(zip.readAllBytes(), StandardCharsets.UTF_8));
            }
        }
        return files;
    }

    private static Map<String, String> sentOut(Browser browser, String table, int time) throws IOException {
        browser.go("/ledger?table=" + table + "&in=de");
        browser.see(".line");
        press(browser, "button", "Send out");
        browser.see("[role=dialog]", "files it came from, at their paths");
        press(browser, "[role=dialog] button", "Send out");
        browser.gone("[role=dialog]");
        return unzipped(browser.downloaded(time == 0 ? table + ".zip" : table + " (" + time + ").zip"));
    }

    /** What stands left to settle in a language of the board's only table. */
    private static int left(Browser browser, String language) {
        String said = (String) browser.script(
                "return [...document.querySelectorAll('[role=grid] [aria-label]')].map(e => e.getAttribute('aria-label')).find(l => l.includes(arguments[0])) ?? ''",
                ", " + language + ":");
        return said.contains(" left")
                ? Integer.parseInt(said.replaceAll(".*: ([0-9,]+) left.*", "$1").replace(",", ""))
                : -1;
    }

    @Test
    void fromNothingToTheBoardInThreeClicks() throws IOException {
        Map<String, String> files = LanguageFiles.yaml(LanguageFiles.FORTY_NINE, KEYS);
        List<Path> paths = LanguageFiles.write(folder, files);
        try (EmptyServer server = new EmptyServer();
                Browser browser = server.browse()) {
            browser.go("/board");
            browser.signIn(EmptyServer.WHO, EmptyServer.PASSWORD);
            press(browser, "a", "Bring texts in");
            bring(browser, List.of(LanguageFiles.zip(folder.resolve("product.zip"), files)));
            browser.see(
                    ".sentence",
                    "49 files become the new table Locales, written in English, in 48 other languages, arriving as settled.");
            takeIn(browser);
            assertThat(browser.count(".setfiles tbody tr")).isEqualTo(49);
            press(browser, ".footer a", "See it on the board");
            browser.see(".scopeline", "48 languages");
            browser.see("[role=grid]");
            for (String language : List.of("de:German", "fi:Finnish", "zh-TW:Chinese (Taiwan)", "no:Norwegian")) {
                String tag = language.substring(0, language.indexOf(':'));
                int missing = 0;
                for (int i = 0; i < KEYS; i++) {
                    missing += LanguageFiles.has(tag, i) ? 0 : 1;
                }
                assertThat(left(browser, language.substring(language.indexOf(':') + 1)))
                        .as(language)
                        .isEqualTo(missing);
            }

            anEditionShowsExactlyItsEdits(browser, files, paths);
            assertThat(sentOut(browser, "locales", 0)).isEqualTo(files);
            assertThat(browser.complaints()).isEmpty();
            welshComesInItsSiblingsHabit(browser, files);
        }
    }

    private void anEditionShowsExactlyItsEdits(Browser browser, Map<String, String> files, List<Path> paths)
            throws IOException {
        files.computeIfPresent(
                "locales/de.yml", (path, text) -> text.replace("de sailing %{n} of 7\"", "de Fahrt %{n} von 7\""));
        files.computeIfPresent(
                "locales/en.yml", (path, text) -> text.replace("en sailing %{n} of 9\"", "en departure %{n} of 9\""));
        files.computeIfPresent("locales/fi.yml", (path, text) -> text + "    k" + KEYS + ": \"fi only\"\n");
        LanguageFiles.write(folder, files);
        assertThat(paths).hasSize(49);
        browser.go("/intake");
        bring(browser, List.of(LanguageFiles.zip(folder.resolve("edition.zip"), files)));
        browser.see(".sentence", "become the next edition of Locales");
        List<String> groups = new ArrayList<>();
        browser.see(".group", "Sources rewritten");
        browser.driver()
                .findElements(By.cssSelector(".group .name"))
                .forEach(one -> groups.add(one.getText().replace("\n", " ")));
        assertThat(groups)
                .containsExactly("The files", "Sources rewritten 1", "Texts replaced 1", "Without a source text 1");
        takeIn(browser);
    }

    private static void welshComesInItsSiblingsHabit(Browser browser, Map<String, String> files) throws IOException {
        browser.script(
                """
                const token = document.cookie.split('; ').find(c => c.startsWith('XSRF-TOKEN=')).slice(11);
                window.added = fetch('/api/tables').then(r => r.json()).then(all => all.find(one => one.slug === 'locales')).then(t => fetch('/api/tables/locales', {
                  method: 'PUT', headers: {'Content-Type': 'application/json', 'X-XSRF-TOKEN': decodeURIComponent(token)},
                  body: JSON.stringify({version: t.version, name: t.name, languages: [...t.languages.map(l => ({tag: l.language.tag, settlesOwn: l.settlesOwn})), {tag: 'cy', settlesOwn: true}]})
                })).then(r => { window.addedStatus = r.status; });
                """);
        browser.until(d -> browser.script("return window.addedStatus ?? null"), "Welsh");
        browser.go("/ledger?table=locales&in=cy");
        browser.see(".line", "quay0.k1");
        WebElement grid = browser.see("[role=grid]");
        grid.click();
        browser.chord(Keys.CONTROL, Keys.HOME);
        browser.press("Hwylio %{n} cyntaf", Keys.ENTER);
        browser.see(".line", "Hwylio");
        Map<String, String> out = sentOut(browser, "locales", 1);
        assertThat(out).hasSize(50);
        assertThat(out.get("locales/cy.yml")).isEqualTo("# en\ncy:\n  quay0:\n    k0: \"Hwylio %{n} cyntaf\"\n");
        out.remove("locales/cy.yml");
        assertThat(out).isEqualTo(files);
    }

    @Test
    void otherHabitsThroughTheInterfaceAndTheSameByCommand() throws Exception {
        List<String> tags = List.of("de", "fi", "pt-BR", "ar", "pl");
        Map<String, String> all = new LinkedHashMap<>();
        all.putAll(LanguageFiles.catalogues(tags, 40));
        all.putAll(LanguageFiles.bundles(tags, 30));
        all.putAll(LanguageFiles.resources(List.of("de", "fi", "pt-rBR", "b+sr+Latn"), 20));
        all.put("app/logo.bin", "\u0001\u0002 no text");
        all.put("app/package.json", "{\"name\": \"deck\", \"port\": \"8080\"}");
        try (EmptyServer server = new EmptyServer();
                Browser browser = server.browse()) {
            browser.go("/intake");
            browser.signIn(EmptyServer.WHO, EmptyServer.PASSWORD);
            bring(browser, List.of(LanguageFiles.zip(folder.resolve("three.zip"), all)));
            browser.see(".MuiAlert-message", "1 file did not come in");
            browser.see(".MuiAlert-message", "1 file stands apart and was not brought in");
            List<String> rows = new ArrayList<>();
            browser.see(".openhead button", "Take in 18 files that are ready");
            browser.driver()
                    .findElements(By.cssSelector("section .listed tbody tr"))
                    .forEach(row -> rows.add(row.getText()));
            assertThat(rows).hasSize(3);
            assertThat(String.join("\n", rows))
                    .contains("7 files bundles/deck_*.properties Deck")
                    .contains("6 files po/*.po")
                    .contains("5 files app/res/values-*/strings.xml Strings");
            press(browser, ".openhead button", "Take in 18 files that are ready");
            browser.until(
                    d -> d.findElements(By.cssSelector(".openhead")).isEmpty() ? Boolean.TRUE : null, "all three");
            browser.go("/board");
            browser.see("[role=grid]", "Deck");
            assertThat(browser.see("[role=grid]").getText()).contains("Winch", "Strings", "Serbian (Latin)");

            byCommand(server, browser, all);
            assertThat(browser.complaints()).isEmpty();
        }
    }

    private void byCommand(EmptyServer server, Browser browser, Map<String, String> all) throws Exception {
        browser.script(
                """
                const token = document.cookie.split('; ').find(c => c.startsWith('XSRF-TOKEN=')).slice(11);
                fetch('/api/tokens', {method: 'POST', headers: {'Content-Type': 'application/json', 'X-XSRF-TOKEN': decodeURIComponent(token)},
                  body: JSON.stringify({name: 'build', days: 2, takesIn: true, sendsOut: true})}).then(r => r.json()).then(t => { window.secret = t.secret; });
                """);
        String secret = (String) browser.until(d -> browser.script("return window.secret ?? null"), "a token");
        all.computeIfPresent("bundles/deck_fi.properties", (path, text) -> text.replace("fi deck 3\n", "fi kansi 3\n"));
        LanguageFiles.write(folder.resolve("work"), all);
        String dry =
                command(server, secret, "push", folder.resolve("work/bundles").toString(), "--dry-run");
        assertThat(dry)
                .contains("bundles/deck_*.properties -> Deck, written in en; would do: texts replaced 1")
                .contains("(source)")
                .containsPattern("fi +2[0-9] texts +[1-9] missing +0 unknown +bundles/deck_fi.properties");
        assertThat(command(
                        server, secret, "push", folder.resolve("work/bundles").toString()))
                .contains("did: texts replaced 1");
        Path pulled = folder.resolve("pulled");
        command(server, secret, "pull", "--table", "deck", "--set", "--to", pulled.toString());
        for (Map.Entry<String, String> file : all.entrySet()) {
            if (file.getKey().startsWith("bundles/")) {
                assertThat(Files.readString(pulled.resolve(file.getKey())))
                        .as(file.getKey())
                        .isEqualTo(file.getValue());
            }
        }
        assertThat(command(server, secret, "push", pulled.resolve("bundles").toString(), "--only", "*.nothing"))
                .contains("No file in the folder matches *.nothing.");
    }

    /** Runs a command as people do, and tells all that it said. */
    private String command(EmptyServer server, String secret, String... words) throws Exception {
        List<String> line = new ArrayList<>(List.of(
                Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                "-cp",
                System.getProperty("surefire.test.class.path", System.getProperty("java.class.path")),
                "mellow.server.launch.Mellow"));
        line.addAll(List.of(words));
        ProcessBuilder process = new ProcessBuilder(line).redirectErrorStream(true);
        process.environment().put("MELLOW_SERVER", server.address());
        process.environment().put("MELLOW_TOKEN", secret);
        Process running = process.start();
        String said = new String(running.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
        running.waitFor();
        return said;
    }
}
