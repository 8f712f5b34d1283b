package mellow.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.RandomAccessFile;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HexFormat;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.openqa.selenium.By;

/** Files that cannot be taken in: one clear sentence each, and the ledger as it was. */
class BadInputTest {

    private static Browser browser;

    @TempDir
    private Path folder;

    @BeforeAll
    static void signIn() {
        browser = DemoServer.browse();
        browser.go("/intake");
        browser.signIn("mirja", DemoServer.PASSWORD);
    }

    @AfterAll
    static void close() {
        browser.close();
    }

    private void bring(String name, byte[] content) throws IOException {
        Path file = folder.resolve(name);
        Files.write(file, content);
        bring(file);
    }

    private void bring(Path file) {
        browser.go("/intake");
        browser.see("button", "Choose files");
        browser.driver().findElement(By.id("file")).sendKeys(file.toString());
    }

    @ParameterizedTest(name = "{0}")
    @CsvSource(
            delimiter = '|',
            value = {
                "picture.csv|89504E470D0A1A0A|this is a PNG picture, not text",
                "empty.csv|''|the file is empty",
                "open-quote.csv|6B65792C656E0A612C2278|line 2, column 3: a quote opens a cell in line 2 and is never closed",
                "invalid.csv|6B65792C64650A612CC3B6C3A4C3BCC3B6C3A40A622CE40A|line 3, column 3: the byte E4 at offset 22 is no character in UTF-8"
            })
    void anUnreadableFileIsRefusedWithItsPlace(String name, String hex, String sentence) throws Exception {
        bring(name, HexFormat.of().parseHex(hex));
        assertThat(browser.see("[role=alert]").getText()).contains(name).contains(sentence);
        browser.go("/intake");
        browser.see(".listed");
        assertThat(browser.see(".intakes").getText()).doesNotContain(name);
    }

    @ParameterizedTest(name = "{0}")
    @CsvSource(
            delimiter = '|',
            value = {
                "no-keys.csv|en,de\\nRamp up,Rampe oben\\nRamp up,Rampe oben\\n|line 1: the header has no column of keys",
                "twice.csv|key,en,de,German\\na,b,c,d\\n|the columns 3 (“de”) and 4 (“German”) are both de"
            })
    void aFlawedLayoutIsShownAndCannotBeTakenIn(String name, String content, String sentence) throws Exception {
        bring(name, content.replace("\\n", "\n").getBytes(StandardCharsets.UTF_8));
        assertThat(browser.see(".reading [role=alert]").getText()).contains(sentence);
        assertThat(browser.see(".footer button.MuiButton-contained").isEnabled())
                .isFalse();
    }

    @Test
    void aFileOfTwoHundredAndFiftyMegabytesIsRefusedBeforeItTravels() throws Exception {
        Path big = folder.resolve("big.csv");
        try (RandomAccessFile file = new RandomAccessFile(big.toFile(), "rw")) {
            file.setLength(250L * 1024 * 1024);
        }
        bring(big);
        assertThat(browser.see("[role=alert]").getText())
                .contains("big.csv has 250 MB")
                .contains("200 MB");
    }

    @Test
    void theLedgerIsAsItWas() {
        browser.go("/ledger?table=ramp-panel&in=de");
        browser.see(".aside", "217 entries");
    }
}
