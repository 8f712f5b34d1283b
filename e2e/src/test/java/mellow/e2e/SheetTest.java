package mellow.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.openqa.selenium.By;
import org.openqa.selenium.Keys;
import org.openqa.selenium.WebElement;

/** A day's work in the sheet: by keyboard alone, with blocks to and from a spreadsheet program, and with a server that goes away. */
class SheetTest {

    @TempDir
    private Path folder;

    /** Takes a new table in through the interface. */
    private void bring(Browser browser, String name, String csv) throws IOException {
        browser.go("/intake");
        browser.see("button", "Choose files");
        Path file = Files.writeString(folder.resolve(name), csv);
        browser.driver().findElement(By.id("file")).sendKeys(file.toString());
        browser.see(".scopeline", "Taking " + name);
        browser.until(
                d -> d.findElements(By.cssSelector(".footer button.MuiButton-contained")).stream()
                                .anyMatch(WebElement::isEnabled)
                        ? true
                        : null,
                "the comparison");
        browser.see(".footer button", "Take in").sendKeys(Keys.ENTER);
        browser.see(".footer a", "Show the rows");
    }

    private static void sheet(Browser browser, String path) {
        browser.go(path);
        browser.see(".line .key");
        browser.until(
                d -> "grid".equals(browser.focused().getAttribute("role")) ? true : null,
                "the sheet to have the focus");
        browser.until(d -> d.findElements(By.cssSelector(".line .faint")).isEmpty() ? true : null, "the rows");
    }

    /** Puts a text into the clipboard as another program would, and gives the sheet the focus back. */
    private static void intoClipboard(Browser browser, String text) {
        browser.script(
                "const area = document.createElement('textarea'); area.id = 'other'; area.value = arguments[0]; document.body.append(area); area.focus(); area.select()",
                text);
        browser.chord(Keys.CONTROL, "c");
        browser.script("document.getElementById('other').remove(); document.querySelector('[role=grid]').focus()");
    }

    @Test
    void tenEntriesAreTranslatedByKeyboardAlonePluralsAmongThem() throws IOException {
        try (Browser browser = DemoServer.browse()) {
            browser.go("/intake");
            browser.signIn("mirja", DemoServer.PASSWORD);
            StringBuilder csv = new StringBuilder("key,en,pl,ar\n");
            for (int i = 1; i <= 8; i++) {
                csv.append("quay.").append(i).append(",Quay {n} of ").append(i).append(",,\n");
            }
            csv.append("rope[one],{n} rope,,\nrope[other],{n} ropes,,\nnet[one],{n} net,,\nnet[other],{n} nets,,\n");
            bring(browser, "quay.csv", csv.toString());

            sheet(browser, "/ledger?table=quay&in=pl");
            for (int i = 1; i <= 8; i++) {
                browser.press("Nabrze\u017ce ");
                browser.chord(Keys.ALT, "1");
                browser.press(" z " + i, Keys.ENTER);
            }
            browser.see(".line.here .key", "rope");
            for (String form : List.of("{n} lina", "{n} liny", "{n} lin", "{n} liny")) {
                browser.press(form, Keys.ENTER);
            }
            browser.see(".line.here .key", "net");
            browser.see(".line .cell", "{n} lina / {n} liny / {n} lin / {n} liny");
            browser.see(".line .cell", "Nabrze\u017ce {n} z 8");

            sheet(browser, "/ledger?table=quay&in=ar&words=net");
            for (String form : List.of(
                    "\u0644\u0627 \u0634\u0628\u0627\u0643",
                    "\u0634\u0628\u0643\u0629",
                    "\u0634\u0628\u0643\u062a\u0627\u0646",
                    "{n} \u0634\u0628\u0627\u0643",
                    "{n} \u0634\u0628\u0643\u0629",
                    "{n} \u0634\u0628\u0643\u0629")) {
                browser.press(form, Keys.ENTER);
            }
            browser.see(".line .remark.offered", "offered by Mirja Tallo");
            assertThat(browser.count(".line .text[dir=rtl] .chip[dir=ltr]")).isEqualTo(3);
            sheet(browser, "/ledger?table=quay&in=pl&only=offered");
            browser.see(".position", "of 9");
        }
    }

    @Test
    void aBlockFromASpreadsheetIsPastedSeenFirstAndTakenBackInOneStep() throws IOException {
        try (Browser browser = DemoServer.browse()) {
            browser.go("/intake");
            browser.signIn("mirja", DemoServer.PASSWORD);
            StringBuilder csv = new StringBuilder("key,en,de,fi,et\n");
            StringBuilder block = new StringBuilder();
            for (int i = 1; i <= 50; i++) {
                csv.append("mast.").append(i).append(",Mast ").append(i).append(",,,\n");
                block.append(i == 2 ? "\"Mast \"\"zwei\"\"\nunten\"" : "Mast D" + i)
                        .append("\tMasto F")
                        .append(i)
                        .append("\tMast E")
                        .append(i)
                        .append("\r\n");
            }
            bring(browser, "mast.csv", csv.toString());
            sheet(browser, "/ledger?table=mast&in=de,fi,et");
            intoClipboard(browser, block.toString());
            browser.chord(Keys.CONTROL, "v");
            browser.see("[role=dialog]", "Paste 150 texts?");
            assertThat(browser.count(".paste tbody tr")).isEqualTo(150);
            browser.see("[role=dialog] button", "Paste 150 texts").sendKeys(Keys.ENTER);
            browser.see(".MuiSnackbar-root", "150 cells changed");
            browser.see(".line .cell", "Mast \"zwei\"");
            browser.chord(Keys.CONTROL, Keys.END);
            browser.see(".line.here .cell.current", "Mast E50");

            // What one copies is what a spreadsheet program would get.
            browser.chord(Keys.CONTROL, Keys.HOME);
            browser.chord(Keys.SHIFT, Keys.DOWN);
            browser.chord(Keys.SHIFT, Keys.RIGHT);
            browser.see(".selectionbar", "4 cells chosen in 2 entries");
            browser.chord(Keys.CONTROL, "c");
            browser.see(".MuiSnackbar-root", "4 cells copied");
            browser.press(Keys.ESCAPE);
            browser.script(
                    "const area = document.createElement('textarea'); area.id = 'other'; document.body.append(area); area.focus()");
            browser.chord(Keys.CONTROL, "v");
            assertThat(browser.script("return document.getElementById('other').value"))
                    .isEqualTo("Mast D1\tMasto F1\n\"Mast \"\"zwei\"\"\nunten\"\tMasto F2");
            browser.script("document.getElementById('other').remove(); document.querySelector('[role=grid]').focus()");

            browser.chord(Keys.CONTROL, "z");
            browser.gone(".line .cell[aria-label*=pencilled]");
            sheet(browser, "/ledger?table=mast&in=de,fi,et&only=untranslated");
            browser.see(".position", "of 50");
        }
    }

    @Test
    void wordsAreReplacedWhereTheyAreTickedAndTakenBackTogether() throws IOException {
        try (Browser browser = DemoServer.browse()) {
            browser.go("/intake");
            browser.signIn("mirja", DemoServer.PASSWORD);
            bring(
                    browser,
                    "keel.csv",
                    "key,en,de\na,Keel,Der Kiel\nb,Keels {Kiel},Kiel {Kiel}\nc,Keelson,Kielschwein\n");
            sheet(browser, "/ledger?table=keel&in=de");
            browser.chord(Keys.CONTROL, "h");
            browser.see("[role=dialog] input").sendKeys("kiel", Keys.TAB, "Balken");
            browser.driver()
                    .findElement(By.xpath("//label[contains(.,'whole words')]"))
                    .click();
            browser.see("[role=dialog] button[type=submit]").click();
            browser.see("[role=dialog]", "Found in 2 texts.");
            assertThat(browser.see(".changes", "Balken {Kiel}").getText()).doesNotContain("Kielschwein");
            browser.driver()
                    .findElement(By.cssSelector(".changes input[aria-label=a]"))
                    .click();
            browser.see("[role=dialog] button", "Replace in 1 text").click();
            browser.see(".MuiSnackbar-root", "Replaced in 1 text");
            browser.see(".line .cell", "Balken {Kiel}");
            assertThat(browser.see("[role=grid]").getText()).contains("Der Kiel", "Kielschwein");
            browser.chord(Keys.CONTROL, "z");
            browser.see(".line .cell[aria-label*='settled: Kiel {Kiel}']");
        }
    }

    @Test
    void aQuestionIsAskedCountedAnsweredAndStays() {
        String scope = "/ledger?table=common-words&in=pl&words=weather.ice";
        try (Browser browser = DemoServer.browse()) {
            browser.go(scope);
            browser.signIn("beata", DemoServer.PASSWORD);
            browser.see(".footnotes button", "Ask").click();
            browser.press("Ice on deck or at sea?", Keys.ENTER);
            browser.see(".line .asked");
        }
        try (Browser browser = DemoServer.browse()) {
            browser.go("/ledger?table=common-words&in=de&asked=open");
            browser.signIn("mirja", DemoServer.PASSWORD);
            browser.see(".footnotes .question", "Ice on deck or at sea?");
            browser.see(".footnotes .question button", "Answer").click();
            browser.press("At sea.", Keys.ENTER);
            browser.see(".footnotes .answer", "At sea.");
            browser.gone(".line .asked");
            browser.go("/ledger?table=common-words&in=ja&words=weather.ice");
            browser.see(".footnotes .answer", "At sea.");
        }
    }

    @Test
    void aServerThatStopsWhileOneTypesCostsNoLetter() throws Exception {
        try (Browser browser = DemoServer.browse()) {
            // The demo is there once any server of it answers.
            browser.go("/sign-in");
        }
        ApartServer server = ApartServer.start(folder);
        try (Browser browser = new Browser(server.address())) {
            String scope = "/ledger?table=bridge-alarms&in=ja&only=untranslated";
            browser.go(scope);
            browser.signIn("mirja", DemoServer.PASSWORD);
            sheet(browser, scope);
            browser.press("\u4e00");
            server.kill();
            browser.press("\u53f7", Keys.ENTER);
            browser.press("\u4e8c\u53f7", Keys.ENTER);
            browser.see(".aside .waiting", "2 texts wait for the server");
            browser.press("\u4e09");
            server = ApartServer.start(folder, server.port());
            browser.until(
                    d -> d.findElements(By.cssSelector(".aside .waiting")).isEmpty() ? true : null,
                    "the texts to be sent by themselves");
            browser.press("\u53f7", Keys.ENTER);
            browser.until(d -> browser.count(".line .remark.offered") == 3 ? true : null, "all three to be offered");
            sheet(browser, "/ledger?table=bridge-alarms&in=ja&only=offered");
            assertThat(browser.see("[role=grid]").getText()).contains("\u4e00\u53f7", "\u4e8c\u53f7", "\u4e09\u53f7");
        } finally {
            server.kill();
        }
    }
}
