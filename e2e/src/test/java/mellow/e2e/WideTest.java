package mellow.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.openqa.selenium.By;
import org.openqa.selenium.Keys;

/** Sixty languages side by side: only the columns in sight exist, and all of them can be reached, typed in and copied. */
class WideTest {

    private static final List<String> LANGUAGES = List.of(
            ("af am ar az be bg bn bs ca cs cy da de el es et eu fa fi fr ga gl gu he hi hr hu hy id is it ja ka kk km kn ko "
                            + "lo lt lv mk ml mn mr ms my nb ne nl pl pt ro ru sk sl sq sr sv sw ta")
                    .split(" "));

    @Test
    void everyColumnIsReachedAndFewExist() {
        StringBuilder csv = new StringBuilder("key,en," + String.join(",", LANGUAGES) + "\n");
        for (int i = 0; i < 40; i++) {
            csv.append("buoy.").append(i).append(",Buoy ").append(i);
            for (String language : LANGUAGES) {
                csv.append(',').append(language).append(" boja ").append(i);
            }
            csv.append('\n');
        }
        DemoServer.takeIn("Sixty", "sixty.csv", csv.toString().getBytes(StandardCharsets.UTF_8));
        try (Browser browser = DemoServer.browse()) {
            browser.go("/ledger?table=sixty&in=" + String.join(",", LANGUAGES));
            browser.signIn("mirja", DemoServer.PASSWORD);
            browser.see(".line .cell", "af boja 0");
            browser.until(
                    d -> "grid".equals(browser.focused().getAttribute("role")) ? true : null,
                    "the sheet to have the focus");
            assertThat(browser.count("#cell-0-0, [id^=cell-0-]")).isLessThan(12);
            browser.press(Keys.END);
            browser.see(".line .cell.current", "ta boja 0");
            assertThat(browser.count("[id^=cell-0-]")).isLessThan(14);
            assertThat(browser.see(".head").getText()).contains("Tamil").doesNotContain("Afrikaans");
            browser.press("neu", Keys.TAB);
            browser.until(
                    d -> browser.see(".line.here .cell.current").getText().contains("af boja 1") ? true : null,
                    "the first text of the next row");
            assertThat(browser.driver().findElements(By.cssSelector("#cell-0-59")))
                    .isEmpty();
            browser.press(Keys.LEFT);
            browser.see(".line.here .source.current", "buoy.1");
            browser.press(Keys.ENTER);
            browser.see("[role=dialog]", "Did the meaning change?");
        }
    }
}
