package mellow.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import com.ibm.icu.text.LocaleDisplayNames;
import com.ibm.icu.util.ULocale;
import java.nio.charset.Charset;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.openqa.selenium.By;
import org.openqa.selenium.Keys;

/** The main job from end to end: a spreadsheet in, three texts edited by keyboard alone, the same spreadsheet out with three changed lines. */
class SpreadsheetRoundTripTest {

    private static final Charset WINDOWS_1252 = Charset.forName("windows-1252");

    @TempDir
    private Path folder;

    /** Names of all countries in three languages out of CLDR: real texts that nobody wrote for this test, in the habits of an old office program. */
    private static byte[] countries() {
        LocaleDisplayNames english = LocaleDisplayNames.getInstance(ULocale.ENGLISH);
        LocaleDisplayNames german = LocaleDisplayNames.getInstance(ULocale.GERMAN);
        LocaleDisplayNames french = LocaleDisplayNames.getInstance(ULocale.FRENCH);
        StringBuilder sheet = new StringBuilder("Countries, all;;;\r\n;English;Deutsch;français\r\n");
        for (String region : ULocale.getISOCountries()) {
            String[] names = {
                english.regionDisplayName(region), german.regionDisplayName(region), french.regionDisplayName(region)
            };
            String row = "country." + region + ";" + names[0] + ";\"" + names[1] + "\";" + names[2] + "\r\n";
            if (WINDOWS_1252.newEncoder().canEncode(row)) {
                sheet.append(row);
            }
        }
        return sheet.toString().getBytes(WINDOWS_1252);
    }

    @Test
    void aForeignSheetComesInIsEditedAndGoesOutWithThreeChangedLines() throws Exception {
        Path file = folder.resolve("countries.csv");
        byte[] before = countries();
        Files.write(file, before);
        try (Browser browser = DemoServer.browse()) {
            browser.go("/intake");
            browser.signIn("mirja", DemoServer.PASSWORD);
            browser.see("button", "Choose files");
            browser.driver().findElement(By.id("file")).sendKeys(file.toString());

            browser.see(".scopeline", "Taking countries.csv into Countries");
            assertThat(browser.see(".aside").getText()).contains("windows-1252");
            assertThat(browser.see("tr.header").getText()).contains("English");
            browser.see("label", "Reviewers may settle their own texts")
                    .findElement(By.cssSelector("input"))
                    .sendKeys(Keys.SPACE);
            browser.see(".group", "New entries");
            browser.until(
                    d -> d.findElement(By.cssSelector(".checks input")).isSelected() ? true : null,
                    "the choice to be kept");
            browser.until(
                    d -> browser.see(".footer button.MuiButton-contained").isEnabled() ? true : null, "the comparison");
            browser.see(".footer button", "Take in").sendKeys(Keys.ENTER);

            browser.see(".footer a", "Show the rows").sendKeys(Keys.ENTER);
            browser.see("[role=grid]");
            browser.see(".line", "country.AD");
            browser.until(
                    d -> "grid".equals(browser.focused().getAttribute("role")) ? true : null,
                    "the sheet to have the focus");

            browser.press("Fürstentum Andorra", Keys.ENTER);
            browser.press(Keys.DOWN, Keys.F2, " (VAE)", Keys.ENTER);
            browser.chord(Keys.CONTROL, Keys.END);
            browser.press("Simbabwe; „Land“", Keys.ENTER);
            browser.until(
                    d -> d.findElements(By.cssSelector(".line .remark")).stream()
                                    .noneMatch(e -> e.getText().contains("saving"))
                            ? true
                            : null,
                    "all to be saved");
            browser.see(".line.here .cell.current", "Simbabwe; „Land“");

            browser.go(browser.path());
            browser.see(".line.here", "Simbabwe; „Land“");
            browser.until(
                    d -> "grid".equals(browser.focused().getAttribute("role")) ? true : null,
                    "the sheet to have the focus");
            browser.chord(Keys.CONTROL, Keys.HOME);
            browser.see(".line", "Fürstentum Andorra");

            browser.see("button", "Send out").sendKeys(Keys.ENTER);
            browser.see("[role=dialog]", "In place");
            browser.see("[role=dialog] button.MuiButton-contained").sendKeys(Keys.ENTER);
            byte[] after = browser.downloaded("countries.csv");
            assertThat(changedLines(before, after))
                    .hasSize(3)
                    .anyMatch(line -> line.contains("\"Fürstentum Andorra\""))
                    .anyMatch(line -> line.contains("(VAE)"))
                    .anyMatch(line -> line.contains("\"Simbabwe; „Land“\""));
            assertThat(browser.complaints()).isEmpty();
        }
    }

    /** Lines of {@code after} that are not, byte for byte, the lines of {@code before} at the same place. */
    private static List<String> changedLines(byte[] before, byte[] after) {
        String[] old = new String(before, WINDOWS_1252).split("(?<=\n)");
        String[] now = new String(after, WINDOWS_1252).split("(?<=\n)");
        assertThat(now).hasSameSizeAs(old);
        List<String> changed = new ArrayList<>();
        for (int i = 0; i < now.length; i++) {
            if (!now[i].equals(old[i])) {
                changed.add(now[i]);
            }
        }
        return changed;
    }
}
