package mellow.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.openqa.selenium.By;
import org.openqa.selenium.Keys;
import org.openqa.selenium.WebElement;

/** What files do not say about themselves: it is shown why they are understood as they are, can be corrected, and nothing is lost by their next edition. */
class FileHabitsTest {

    private static final String FIRST =
            """
            msgid ""
            msgstr "Language: fi\\nContent-Type: text/plain; charset=UTF-8\\n"

            msgctxt "winch.stop"
            msgid "Stop the winch"
            msgstr "Pysäytä vinssi"

            msgctxt "winch.slow"
            msgid "Winch runs slowly"
            msgstr "Vinssi käy hitaasti"

            msgctxt "winch.load"
            msgid "Too much load"
            msgstr "Liikaa kuormaa"
            """;

    @TempDir
    private Path folder;

    private void bring(Browser browser, String name, String content) throws IOException {
        Path file = Files.writeString(folder.resolve(name), content);
        browser.go("/intake");
        browser.see("button", "Choose files");
        browser.driver().findElement(By.id("file")).sendKeys(file.toString());
    }

    private static void press(Browser browser, String selector, String words) {
        browser.see(selector, words).sendKeys(Keys.ENTER);
    }

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

    @Test
    void aHabitIsCorrectedAndTheNextEditionKeepsWhatPeopleDid() throws IOException {
        try (Browser browser = DemoServer.browse()) {
            browser.go("/intake");
            browser.signIn("mirja", DemoServer.PASSWORD);
            bring(browser, "winch.po", FIRST);
            browser.see(".reading .soft", "Every message has a msgctxt of its own");
            browser.see(".reading td", "winch.stop");
            press(browser, ".reading [role=combobox]", "the context; the source is the text");
            press(browser, "[role=option]", "the source, which is the text");
            browser.see(".reading td", "Stop the winch");
            takeIn(browser);

            String second = FIRST.replace("Winch runs slowly", "The winch runs slowly")
                    .replace("msgctxt \"winch.load\"", "#, fuzzy\nmsgctxt \"winch.load\"")
                    .replace("Stop the winch", "Stop the winch at once")
                    .replace("Pysäytä vinssi", "");
            bring(browser, "winch.po", second);
            browser.see(".scopeline", "Taking winch.po into Winch");
            press(browser, ".group", "Doubted in the file");
            press(browser, ".changeline .choiceswitch button", "pencil");
            browser.see(".changeline .becomes", "pencilled");
            press(browser, ".group", "Rewritten, with a new key?");
            browser.see(".changeline .becomes", "goes stale in fi");
            // Two entries instead: the text that came along is counted, and nothing goes stale for it.
            press(browser, ".changeline .choiceswitch button", "two entries");
            browser.see(".changeline .becomes", "is added");
            press(browser, ".changeline .choiceswitch button", "meaning changed");
            browser.see(".changeline .becomes", "goes stale in fi");
            takeIn(browser);

            browser.go("/ledger?table=winch&in=fi");
            browser.see(".line", "The winch runs slowly");
            assertThat(browser.see("[role=grid]").getText())
                    .contains("Stop the winch at once", "Pysäytä vinssi", "Vinssi käy hitaasti", "Liikaa kuormaa");
            browser.go("/ledger?table=winch&in=fi&only=stale");
            browser.see(".line", "The winch runs slowly");
            assertThat(browser.see("[role=grid]").getText())
                    .contains("Stop the winch at once")
                    .doesNotContain("Too much load");
            browser.go("/ledger?table=winch&in=fi&only=pencilled");
            browser.see(".line", "Too much load");
        }
    }

    @Test
    void aFileThatCannotBeReadAsItSeemsIsReadAsSomebodySays() throws IOException {
        try (Browser browser = DemoServer.browse()) {
            browser.go("/intake");
            browser.signIn("mirja", DemoServer.PASSWORD);
            bring(browser, "capstan.csv", "capstan.up=Up,\"down\ncapstan.stop=Halt\n");
            browser.see("[role=alert]", "a quote opens a cell in line 1 and is never closed");
            press(browser, "[role=alert] button", "How it was read");
            browser.see(".reading [role=alert]", "never closed");
            browser.see(".reading .soft", "It cannot be read like this");
            press(browser, ".reading [role=combobox]", "CSV, separated text");
            press(browser, "[role=option]", "Java properties");
            browser.see(".reading td", "capstan.stop");
            takeIn(browser);

            // What a format has no place for is told before anything is sent.
            browser.go("/ledger?table=deckside");
            press(browser, "button", "Send out");
            browser.see("[role=dialog] label", "Fresh: new files");
            browser.driver()
                    .findElement(By.cssSelector("[role=dialog] input[value=fresh]"))
                    .click();
            press(browser, "[role=dialog] [role=combobox]", "CSV, separated text");
            press(browser, "[role=option]", "PO catalogue");
            browser.see("[role=dialog] [role=alert] li", "the sections of");
            browser.see("[role=dialog] [role=alert] li", "the limits of");
            browser.see("[role=dialog] [role=alert]", "map.harbour");
            browser.driver()
                    .findElement(By.cssSelector("[role=dialog] [role=alert] input[type=checkbox]"))
                    .click();
            press(browser, "[role=dialog] button", "Send out");
            browser.until(d -> d.findElements(By.cssSelector("[role=dialog]")).isEmpty() ? true : null, "the file");
        }
    }
}
