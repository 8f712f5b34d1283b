package mellow.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.awt.Color;
import java.awt.image.BufferedImage;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Base64;
import java.util.List;
import java.util.Map;
import javax.imageio.ImageIO;
import mellow.core.fit.Face;
import mellow.core.fit.FontFile;
import mellow.core.format.Limits;
import mellow.core.format.Problems;
import mellow.core.format.archive.Archive;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.openqa.selenium.By;
import org.openqa.selenium.Keys;
import org.openqa.selenium.WebElement;
import org.openqa.selenium.interactions.Actions;
import org.openqa.selenium.print.PrintOptions;

/** Products played as their users switch them, texts changed where they stand, places marked on pictures, sheets on paper. */
class StagesTest {

    private static void type(WebElement field, String text) {
        field.sendKeys(Keys.chord(Keys.CONTROL, "a"), text);
    }

    @Test
    void aPanelIsSwitchedByItsRegisterAndBeginsWhereANumberIsNotListed() {
        try (Browser mirja = DemoServer.browse()) {
            mirja.go("/rehearsal/ramp-bilge-panel");
            mirja.signIn("mirja", DemoServer.PASSWORD);
            mirja.see(".scenes a", "Bow ramp").click();
            mirja.see(".stage .shown", "Kulma 14°");
            for (Map.Entry<String, String> one : Map.of(
                            "1",
                            "Kulma 14°",
                            "2",
                            "Kalle 14°",
                            "3",
                            "Winkel 14°",
                            "4",
                            "Kąt rampy 14°",
                            "7",
                            "Kulma 14°")
                    .entrySet()) {
                type(mirja.see(".switching .number input"), one.getKey());
                mirja.see(".stage .shown", one.getValue());
            }
            type(mirja.see(".switching .number input"), "7");
            mirja.see(".switching [role=status]", "7 → not listed → start language → fi");
            assertThat(mirja.path()).contains("asked=number%3A7");
            assertThat(mirja.complaints()).isEmpty();
        }
    }

    @Test
    void aSiteIsSwitchedByItsAddressAndAnAppByTheListOfItsReader() {
        try (Browser mirja = DemoServer.browse()) {
            mirja.go("/rehearsal/ostrel-booking-site");
            mirja.signIn("mirja", DemoServer.PASSWORD);
            List<WebElement> asks = mirja.until(
                    d -> {
                        List<WebElement> all = d.findElements(By.cssSelector(".switching input[type=text]"));
                        return all.size() > 1 ? all : null;
                    },
                    "the two ways to ask");
            asks.get(1).sendKeys("zz, fi;q=0.8", Keys.ENTER);
            mirja.see(".stage figcaption", "Finnish");
            mirja.see(".switching [role=status]", "fi");
            mirja.go("/rehearsal/deckside?in=de");
            mirja.see(".stage figcaption", "German");
            mirja.see(".habit button", "Screens change at once").click();
            mirja.see(".switching input[type=text]").sendKeys("ar-EG", Keys.ENTER);
            WebElement anew = mirja.see(".habit button", "Make the screen anew");
            assertThat(mirja.see(".stage figcaption").getText()).contains("German");
            anew.click();
            mirja.see(".stage figcaption", "Arabic");
        }
    }

    @Test
    void aTextThatIsChangedInASceneStandsInTheSceneOfSomebodyElse() {
        try (Browser mirja = DemoServer.browse();
                Browser oskar = DemoServer.browse()) {
            oskar.go("/rehearsal/ramp-bilge-panel?in=de");
            oskar.signIn("oskar", DemoServer.PASSWORD);
            oskar.see(".scenes a", "Doors").click();
            WebElement there = oskar.see(".stage .shown");
            String key = there.getAttribute("aria-label").replaceAll(":.*", "");
            mirja.go("/rehearsal/ramp-bilge-panel?in=de&in=pl");
            mirja.signIn("mirja", DemoServer.PASSWORD);
            mirja.see(".scenes a", "Doors").click();
            mirja.see(".stage .shown").click();
            mirja.see(".scenecell .note h2", key);
            mirja.see(".scenecell .footnotes", "Story of this cell");
            WebElement editor = mirja.see(".scenecell textarea");
            type(editor, "Türen jetzt zu");
            mirja.see(".scenecell button", "Put mine forward").click();
            mirja.see(".stage .shown", "Türen jetzt zu");
            oskar.see(".stage .shown", "Türen jetzt zu");
            assertThat(mirja.complaints()).isEmpty();
        }
    }

    private static Path picture(Path folder) throws Exception {
        BufferedImage image = new BufferedImage(320, 200, BufferedImage.TYPE_INT_RGB);
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        ImageIO.write(image, "png", out);
        return Files.write(folder.resolve("Quay screen.png"), out.toByteArray());
    }

    @Test
    void placesAreMarkedOnAPictureByMouseAndByKeysAlone(@TempDir Path folder) throws Exception {
        try (Browser mirja = DemoServer.browse()) {
            mirja.go("/rehearsal/deckside?in=fi");
            mirja.signIn("mirja", DemoServer.PASSWORD);
            mirja.see(".scenes button", "New scene");
            mirja.driver()
                    .findElement(By.cssSelector(".scenes input[type=file]"))
                    .sendKeys(picture(folder).toString());
            mirja.see(".MuiSnackbar-root", "mark the places on it now");
            mirja.see("a", "Mark places").click();
            WebElement canvas = mirja.see(".marking");
            // By mouse: a box is drawn, moved, and its entry found by words of its source.
            new Actions(mirja.driver())
                    .moveToElement(canvas, -100, -60)
                    .clickAndHold()
                    .moveByOffset(150, 50)
                    .release()
                    .perform();
            WebElement key = mirja.see("#box-key");
            key.sendKeys("Next sailing");
            mirja.see("[role=option]", "sailing.next").click();
            mirja.see(".marks ol", "sailing.next");
            // By keys alone: copied, moved, its end moved, another entry typed.
            mirja.see("[data-box='0']").sendKeys("");
            mirja.script("document.querySelector('[data-box=\"0\"]').focus()");
            mirja.chord(Keys.CONTROL, "d");
            mirja.see("[data-box='1'].chosen");
            double y = number(mirja, "From the top");
            mirja.chord(Keys.SHIFT, Keys.ARROW_DOWN);
            mirja.chord(Keys.SHIFT, Keys.ARROW_DOWN);
            mirja.chord(Keys.SHIFT, Keys.ARROW_DOWN);
            mirja.press(Keys.ARROW_DOWN);
            mirja.until(d -> number(mirja, "From the top") == y + 31 ? Boolean.TRUE : null, "the box 31 pixels lower");
            double wide = number(mirja, "Width");
            mirja.chord(Keys.ALT, Keys.ARROW_RIGHT);
            mirja.until(d -> number(mirja, "Width") == wide + 1 ? Boolean.TRUE : null, "the box a pixel wider");
            mirja.press(Keys.ENTER);
            mirja.until(d -> mirja.focused().getAttribute("id").equals("box-key") ? Boolean.TRUE : null, "its key");
            mirja.chord(Keys.CONTROL, "a");
            mirja.press("boarding.open", Keys.ESCAPE);
            mirja.see(".marks ol", "boarding.open");
            mirja.see("button", "Save places").click();
            mirja.see(".stage .shown", "Seuraava lähtö");
            mirja.see(".stage .shown", "Laivaannousu on alkanut");
            mirja.see("a", "Mark places").click();
            mirja.see(".marks ol", "sailing.next");
            assertThat(mirja.count("[data-box]")).isEqualTo(2);
            assertThat(mirja.complaints()).isEmpty();
        }
    }

    private static double number(Browser browser, String label) {
        Object value = browser.script(
                "return [...document.querySelectorAll('.boxfields label')].find((one) => one.textContent === arguments[0])"
                        + ".parentElement.querySelector('input').value",
                label);
        return Double.parseDouble(String.valueOf(value));
    }

    @Test
    void aContactSheetIsPrintedAndOneSceneIsSeenInAllLanguages() throws Exception {
        try (Browser mirja = DemoServer.browse()) {
            mirja.go("/rehearsal/ramp-bilge-panel/sheet?in=pl");
            mirja.signIn("mirja", DemoServer.PASSWORD);
            mirja.see(".contactsheet .small.bad", "Bow ramp");
            mirja.until(d -> mirja.count(".contactsheet figure svg") == 5 ? Boolean.TRUE : null, "all five scenes");
            byte[] paper = Base64.getDecoder()
                    .decode(mirja.driver().print(new PrintOptions()).getContent());
            assertThat(new String(paper, 0, 5, StandardCharsets.US_ASCII)).isEqualTo("%PDF-");
            assertThat(new String(paper, StandardCharsets.ISO_8859_1).split("/Type\\s*/Page\\b"))
                    .as("all of it on few pages")
                    .hasSizeBetween(2, 4);
            mirja.see("button", "Save as pictures").click();
            byte[] saved = mirja.downloaded("ramp-bilge-panel_pl.zip");
            Archive pictures = Archive.read(saved, Limits.DEFAULT, new Problems("pictures.zip"));
            assertThat(pictures.names()).hasSize(5).contains("Bow-ramp_pl.png");
            BufferedImage bow = ImageIO.read(
                    new ByteArrayInputStream(pictures.part("Bow-ramp_pl.png").orElseThrow()));
            assertThat(bow.getWidth() + " " + bow.getHeight()).isEqualTo("960 540");
            assertThat(new Color(bow.getRGB(2 * 300, 2 * 250)))
                    .as("the drawing's own ground")
                    .isEqualTo(new Color(0x1c2a33));
            mirja.see(".picker", "all scenes").click();
            mirja.see("[role=menuitemradio]", "Bow ramp").click();
            mirja.until(d -> mirja.count(".contactsheet figure svg") == 4 ? Boolean.TRUE : null, "all four languages");
            assertThat(mirja.complaints()).isEmpty();
        }
    }

    /** Every line that a scene of the demo's panel shows is as wide in the browser as the server measured it, in every language. */
    @Test
    void theServerAndTheBrowserAgreeInAllScenesAndLanguages() throws Exception {
        FontFile font = FontFile.read(Files.readAllBytes(Path.of("../demo/ramp-panel.ttf")));
        int lines = 0;
        try (Browser mirja = DemoServer.browse()) {
            mirja.go("/rehearsal/ramp-bilge-panel");
            mirja.signIn("mirja", DemoServer.PASSWORD);
            mirja.see(".stage svg");
            for (String scene : List.of("Bilge tanks", "Bow ramp", "Bow visor", "Doors", "Hydraulics")) {
                mirja.see(".scenes a", scene).click();
                mirja.see(".whichscene", scene);
                String address = mirja.path().replaceAll("\\?.*", "");
                mirja.go(address + "?in=fi&in=et&in=de&in=pl");
                mirja.until(d -> mirja.count(".stages .stage svg") == 4 ? Boolean.TRUE : null, "four languages");
                mirja.until(
                        d -> Boolean.TRUE.equals(
                                        mirja.script(
                                                "return document.querySelector('.stages .stage > div').style.fontFamily.includes('scene-')"))
                                ? Boolean.TRUE
                                : null,
                        "the panel's font");
                List<?> measured = (List<?>)
                        mirja.script(
                                "return [...document.querySelectorAll('.stages .stage .shown tspan')].map((line) =>"
                                        + " [line.textContent, line.getComputedTextLength(), Number(line.parentElement.getAttribute('font-size'))])");
                for (Object one : measured) {
                    List<?> line = (List<?>) one;
                    String text = String.valueOf(line.get(0));
                    Face face = Face.of("panel", font, ((Number) line.get(2)).floatValue());
                    if (face.lacking(text).isEmpty()) {
                        lines++;
                        double width = ((Number) line.get(1)).doubleValue();
                        assertThat(face.width(text)).as(scene + ": " + text).isBetween(width - 1, width + 1);
                    }
                }
            }
        }
        assertThat(lines).isGreaterThan(120);
    }
}
