package mellow.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.openqa.selenium.By;
import org.openqa.selenium.Keys;
import org.openqa.selenium.WebElement;

/** Bringing files in through the real interface: a conflict, a renamed key and a small fix decided, taken in, taken back; and many files at once. */
class IntakeTest {

    private static final String FIRST =
            "key,en,de\nup,Hoist up,Hoch\ndown,Hoist down,Runter\nstop,Stop the hoist,Halt\nslow,Slowly,Langsam\nload,Load {0},Last {0}\n";

    @TempDir
    private Path folder;

    private Path file(String name, String content) throws IOException {
        Path file = folder.resolve(name);
        Files.createDirectories(file.getParent());
        return Files.writeString(file, content);
    }

    private static void bring(Browser browser, List<Path> files) {
        browser.go("/intake");
        browser.see("button", "Choose files");
        browser.driver()
                .findElement(By.id("file"))
                .sendKeys(String.join("\n", files.stream().map(Path::toString).toList()));
    }

    private static void press(Browser browser, String selector, String words) {
        browser.see(selector, words).sendKeys(Keys.ENTER);
    }

    /** Takes in what is open, once it has been compared, and waits until it is done. */
    private static void takeIn(Browser browser) {
        browser.until(
                d -> d.findElements(By.cssSelector(".footer button.MuiButton-contained")).stream()
                                .anyMatch(WebElement::isEnabled)
                        ? true
                        : null,
                "the comparison");
        press(browser, ".footer button", "Take in");
        browser.see(".footer a", "Show the rows");
    }

    /** Chooses what to do with the first line of a group. */
    private static void choose(Browser browser, String group, String choice) {
        press(browser, ".group", group);
        press(browser, ".changeline .choiceswitch button", choice);
        browser.see(".changeline .choiceswitch button[aria-pressed=true]", choice);
    }

    private static String texts(Browser browser, String query) {
        browser.go("/ledger?table=crane&in=de" + query);
        browser.see(".line", "up");
        return browser.see("[role=grid]").getText();
    }

    @Test
    void aConflictIsDecidedTakenInAndTakenBack() throws IOException {
        try (Browser browser = DemoServer.browse()) {
            browser.go("/intake");
            browser.signIn("mirja", DemoServer.PASSWORD);
            bring(browser, List.of(file("v1/crane.csv", FIRST)));
            browser.see(".scopeline", "Taking crane.csv into Crane");
            takeIn(browser);

            // Another file differs from what is settled, and somebody decides for it.
            bring(browser, List.of(file("agency/crane-agency.csv", "key,de\nup,Heben\n")));
            browser.see(".scopeline", "Taking crane-agency.csv");
            press(browser, ".reading [role=combobox]", "a new table");
            press(browser, "[role=option]", "Crane");
            browser.see(".scopeline", "into Crane");
            choose(browser, "Differ from settled", "take");
            takeIn(browser);
            assertThat(texts(browser, "")).contains("Heben").doesNotContain("Hoch");

            // The file moves on: its text for "up" and ours both changed, a key was renamed, a source got its full
            // stop.
            String second = FIRST.replace("Hoch", "Aufw\u00e4rts")
                    .replace("slow,", "crawl,")
                    .replace("Stop the hoist", "Stop the hoist.")
                    .replace("Last {0}", "Last");
            bring(browser, List.of(file("v2/crane.csv", second)));
            browser.see(".scopeline", "Taking crane.csv into Crane");
            choose(browser, "Renamed?", "same entry, new key");
            choose(browser, "Sources rewritten", "small fix");
            press(browser, ".group", "Something stops the text");
            browser.see(".changeline .becoming", "The placeholder {0} is missing.");
            browser.see(".changeline .becomes", "becomes an offer");
            choose(browser, "Conflicts", "take");
            browser.see(".changeline .source", "Heben");
            browser.see(".changeline .becoming ins", "Aufw\u00e4rts");
            takeIn(browser);
            String intake = browser.path();
            String after = texts(browser, "");
            assertThat(after)
                    .contains("Aufw\u00e4rts", "crawl", "Langsam", "Stop the hoist.")
                    .doesNotContain("Heben");
            assertThat(texts(browser, "&only=stale,offered,settled")).contains("Halt");

            browser.go(intake);
            press(browser, ".footer button", "Take it back");
            browser.see("[role=dialog]", "become what they were before");
            press(browser, "[role=dialog] button", "Take it back");
            browser.see(".MuiAlert-message", "Taken back by Mirja Tallo");
            String before = texts(browser, "");
            assertThat(before)
                    .contains("Heben", "slow", "Langsam")
                    .doesNotContain("Aufw\u00e4rts", "crawl", "Stop the hoist.");
            assertThat(browser.complaints()).isEmpty();
        }
    }

    @Test
    void ofTwentyFilesInOneDropSixAreReadyAndTheOthersSayWhyNot() throws IOException {
        List<Path> files = new ArrayList<>();
        for (int i = 0; i < 6; i++) {
            files.add(file("many/winch" + i + ".csv", "key,en,de\na,A,B\n"));
            files.add(file("many/winch" + i + ".json", "{\"a\": \"A\"}"));
            files.add(file("many/winch" + i + ".properties", "a=A\n"));
        }
        files.add(
                file(
                        "many/hostile.xml",
                        "<!DOCTYPE r [<!ENTITY x SYSTEM \"file:///etc/hostname\">]><resources><string name=\"a\">&x;</string></resources>"));
        files.add(file("many/logo.bin", "\u0001\u0002 nothing that anybody reads"));
        try (Browser browser = DemoServer.browse()) {
            browser.go("/intake");
            browser.signIn("mirja", DemoServer.PASSWORD);
            bring(browser, files);
            browser.see(".MuiAlert-message", "2 files did not come in");
            assertThat(browser.see(".refused").getText()).contains("hostile.xml", "logo.bin", "no known format");
            browser.see(".MuiAlert-message", "12 files stand apart");
            // One of the demo's waits as well.
            browser.see(".openhead button", "Take in 7 files that are ready");
            for (WebElement row : browser.driver().findElements(By.cssSelector("section .listed tbody tr"))) {
                assertThat(row.getText()).doesNotContain("needs");
            }
        }
    }

    /** Files that a person drops cannot come through the driver; the page gets the same events with a file made in it. */
    private static final String DROP =
            """
            const files = new DataTransfer();
            files.items.add(new File([arguments[1]], arguments[0], { type: "text/csv" }));
            const over = document.querySelector("[role=grid]");
            over.dispatchEvent(new DragEvent("dragover", { dataTransfer: files, bubbles: true, cancelable: true }));
            window.dropNow = () => over.dispatchEvent(new DragEvent("drop", { dataTransfer: files, bubbles: true, cancelable: true }));
            """;

    @Test
    void aFileDroppedOnATableWaitsForThatTable() {
        try (Browser browser = DemoServer.browse()) {
            browser.go("/ledger?table=bridge-alarms&in=de");
            browser.signIn("mirja", DemoServer.PASSWORD);
            browser.see(".line");
            browser.script(DROP, "night-shift.csv", "key,de\nnone.such,Nichts\n");
            browser.see(".dropover", "Bridge alarms");
            browser.script("window.dropNow()");
            browser.see(".scopeline", "Taking night-shift.csv into Bridge alarms");
            // What waits here would be among the files of other tests.
            press(browser, ".footer button", "Leave it");
            browser.see(".listed");
            browser.go("/ledger?table=bridge-alarms&in=de");
            browser.see(".line");
            browser.script(DROP, "wheelhouse.bin", "\u0000\u0001\u0002");
            browser.script("window.dropNow()");
            browser.see("[role=alert]", "wheelhouse.bin");
        }
    }
}
