package mellow.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import mellow.core.format.Limits;
import mellow.core.format.Problems;
import mellow.core.scene.SceneReader;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.openqa.selenium.By;
import org.openqa.selenium.Keys;
import org.openqa.selenium.WebElement;

/** Scenes of the demo's products in languages side by side, played as a coordinator does it. */
class RehearsalTest {

    @Test
    void aSceneShowsTwoLanguagesAndAPretendOneThatDoesNotFit() {
        try (Browser mirja = DemoServer.browse()) {
            mirja.go("/rehearsal/ramp-bilge-panel?in=fi&in=pl");
            mirja.signIn("mirja", DemoServer.PASSWORD);
            mirja.see(".scenes a", "Bow ramp").click();
            mirja.see(".stage figcaption", "Finnish");
            mirja.see(".stage:nth-child(2) figcaption", "Polish");
            mirja.see(".stage .shown", "Kulma 14°");
            mirja.see(".stage:nth-child(2) .shown", "Kąt rampy 14°");
            mirja.see(".stage:nth-child(2) .shown", "Opuścić rampę 2? Przytrzymaj 3 s");

            WebElement number = mirja.see(".values input[value='2']");
            number.sendKeys(Keys.chord(Keys.CONTROL, "a"), "7", Keys.ENTER);
            mirja.see(".stage:nth-child(2) .shown", "Opuścić rampę 7?");
            mirja.see(".plays button", "keys").click();
            mirja.see(".stage .shown", "ramp.lower.confirm");

            mirja.go("/rehearsal/ramp-bilge-panel?in=pl");
            mirja.see(".scenes a", "Bilge tanks").click();
            mirja.see(".troubles li", "DejaVu Sans Mono has no “ź”");

            mirja.go("/rehearsal/ramp-bilge-panel?in=en-XA");
            mirja.see(".scenes a", "Bow ramp").click();
            mirja.see(".stage .shown.wrong", "[▯ö▯é▯ ▯àmþ 2");
            mirja.see(".troubles li", "pixels too wide")
                    .findElement(By.tagName("button"))
                    .click();
            mirja.see(".note a", "Open in the ledger");
            assertThat(mirja.complaints()).isEmpty();
        }
    }

    @Test
    void whatIsWrittenElsewhereStandsInTheSceneAtOnce() {
        try (Browser mirja = DemoServer.browse()) {
            mirja.go("/rehearsal/ramp-bilge-panel?in=pl");
            mirja.signIn("mirja", DemoServer.PASSWORD);
            mirja.see(".scenes a", "Bow visor").click();
            mirja.see(".stage .shown.lent", "Visiiri kiinni");
            DemoServer.takeIn(
                    "Ramp panel",
                    "visor.csv",
                    "key,en,pl\nvisor.closed,Visor closed,Furta zamknięta\n".getBytes(StandardCharsets.UTF_8));
            mirja.see(".stage .shown", "Furta zamknięta");
        }
    }

    @Test
    void aSceneIsMirroredForArabicButForWhatIsKept() {
        try (Browser mirja = DemoServer.browse()) {
            mirja.go("/rehearsal/deckside?in=ar");
            mirja.signIn("mirja", DemoServer.PASSWORD);
            WebElement title = mirja.see(".stage .shown", "الصعود");
            WebElement stage = mirja.see(".stage svg");
            double middle = stage.getRect().x + stage.getRect().width / 2.0;
            assertThat(title.getRect().x + title.getRect().width / 2.0)
                    .as("at the other side")
                    .isGreaterThan(middle);
            WebElement kept = mirja.see(".stage [data-keep] circle");
            assertThat(kept.getRect().x + kept.getRect().width / 2.0)
                    .as("in its mirrored place")
                    .isLessThan(middle);
        }
    }

    @Test
    void aDrawingIsTakenInAndItsScriptsAreNot(@TempDir Path folder) throws Exception {
        Path file = folder.resolve("Quay gate.svg");
        Files.writeString(
                file,
                """
                <svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 200 100" onload="document.title='run'">
                  <script>document.title='run'</script>
                  <image href="/api/session?asked-by-a-drawing" width="10" height="10"/>
                  <text x="10" y="40">#boarding.title#</text>
                </svg>
                """);
        try (Browser mirja = DemoServer.browse()) {
            mirja.go("/rehearsal/deckside?in=fi");
            mirja.signIn("mirja", DemoServer.PASSWORD);
            mirja.see(".scenes button", "New scene");
            mirja.driver()
                    .findElement(By.cssSelector(".scenes input[type=file]"))
                    .sendKeys(file.toString());
            mirja.see(".MuiSnackbar-root", "“Quay gate” has 1 place.");
            mirja.see(".stage .shown", "Laivaannousu");
            assertThat(mirja.driver().getTitle()).doesNotContain("run");
            assertThat(
                            mirja.script(
                                    "return performance.getEntriesByType('resource').some((one) => one.name.includes('asked-by-a-drawing'))"))
                    .isEqualTo(false);
        }
    }

    /** Drawings that were cleaned, put into a page as they are: nothing in them runs or asks for anything. */
    @Test
    void whatIsLeftOfHostileDrawingsDoesNothing() throws Exception {
        List<String> hostile = List.of(
                "<script>window.ran = 1</script>",
                "<image href=\"/hostile.png\"/>",
                "<image xlink:href=\"/hostile.png\"/>",
                "<use href=\"/hostile.svg#a\"/>",
                "<rect onload=\"window.ran = 1\" onclick=\"window.ran = 1\" width=\"9\" height=\"9\"/>",
                "<rect style=\"fill: url(/hostile.svg#a)\" width=\"9\" height=\"9\"/>",
                "<rect clip-path=\"url(/hostile.svg#a)\" width=\"9\" height=\"9\"/>",
                "<style>@import url(/hostile.css);</style>",
                "<style>rect { background: url(/hostile.png) }</style><rect/>",
                "<foreignObject><img xmlns=\"http://www.w3.org/1999/xhtml\" src=\"/hostile.png\" onerror=\"window.ran = 1\"/></foreignObject>",
                "<animate attributeName=\"x\" onbegin=\"window.ran = 1\" dur=\"1s\"/>",
                "<filter id=\"f\"><feImage href=\"/hostile.png\"/></filter><rect filter=\"url(#f)\"/>",
                "<a href=\"javascript:window.ran = 1\"><text x=\"5\" y=\"9\">a</text></a>",
                "<svg onload=\"window.ran = 1\"/>",
                "<text x=\"5\" y=\"9\">&lt;img src=/hostile.png onerror=window.ran=1&gt;</text>");
        try (Browser anybody = DemoServer.browse()) {
            anybody.go("/sign-in");
            anybody.see("input[autocomplete=username]");
            for (String one : hostile) {
                String drawing = SceneReader.read(
                                ("<svg xmlns=\"http://www.w3.org/2000/svg\" xmlns:xlink=\"http://www.w3.org/1999/xlink\" viewBox=\"0 0 9 9\">"
                                                + one + "</svg>")
                                        .getBytes(StandardCharsets.UTF_8),
                                Limits.DEFAULT,
                                new Problems("hostile.svg"))
                        .drawing();
                anybody.script(
                        "const div = document.createElement('div'); div.innerHTML = arguments[0]; document.body.append(div);"
                                + " div.querySelectorAll('*').forEach((one) => one.dispatchEvent(new MouseEvent('click', { bubbles: true })));",
                        drawing);
            }
            assertThat(
                            anybody.script(
                                    "return [window.ran ?? 0, performance.getEntriesByType('resource').filter((one) => one.name.includes('hostile')).length]"))
                    .isEqualTo(List.of(0L, 0L));
        }
    }
}
