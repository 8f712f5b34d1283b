package mellow.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import org.junit.jupiter.api.Test;
import org.openqa.selenium.By;
import org.openqa.selenium.Keys;
import org.openqa.selenium.WebElement;

/** A panel is set up from nothing, kept back by what is missing, mended, delivered, changed, delivered again, compared and recalled, as a coordinator does it. */
class DeliveriesTest {

    private static final String WINCH =
            "key,en,fi,pl\nwindlass.1,Windlass on,Vinssi päällä,Wciągarka włączona\nwindlass.2,Windlass off,Vinssi pois,\n";

    @Test
    void aPanelIsSetUpAndDelivered() {
        DemoServer.takeIn("Windlass", "windlass.csv", WINCH.getBytes(StandardCharsets.UTF_8));
        try (Browser mirja = DemoServer.browse()) {
            mirja.go("/products");
            mirja.signIn("mirja", DemoServer.PASSWORD);
            setUp(mirja);
            mirja.go("/products/windlass-panel");
            mirja.see(".ofproduct th", "Polish");
            ask(mirja, "pl", "windlass.2");
            mirja.see(".ofproduct .answer", "Vinssi pois");
            mirja.see(".ofproduct .answer", "pl has none → fi: Vinssi pois");

            mirja.go("/deliveries/windlass-panel");
            mirja.see(".delivering footer", "it has no recipe");
            addRecipe(mirja);
            mirja.see(".delivering .recipes button", "Panel texts");
            mirja.see(".delivering button", "Gates and schedule").click();
            type(mirja, "[role=dialog] input[type=number]", "80");
            mirja.see("[role=dialog] button", "Save").click();
            mirja.see(".delivering .wrong", "held back");
            mirja.see(".delivering button", "Deliver no. 1").click();
            mirja.see(".past th", "1");
            mirja.see(".past td", "Polish held back");

            DemoServer.takeIn(
                    "Windlass",
                    "windlass.csv",
                    WINCH.replace("off,Vinssi pois,", "off,Vinssi pois,Wciągarka wyłączona")
                            .getBytes(StandardCharsets.UTF_8));
            mirja.go("/deliveries/windlass-panel");
            mirja.see(".delivering footer button", "Deliver no. 2");
            mirja.until(d -> mirja.count(".delivering td.yes") == 2 ? true : null, "Polish to be whole");
            mirja.see(".delivering button", "Deliver no. 2").click();
            mirja.see(".past th", "2");
            mirja.see(".past button", "Compare").click();
            mirja.see(".goingout .files", "windlass-pl.csv");
            mirja.see(".goingout ins", "Wciągarka");

            mirja.see(".past button", "Recall").click();
            mirja.see("[role=dialog] input");
            mirja.press("wrong font", Keys.ENTER);
            mirja.see(".past .wrong", "recalled: wrong font");
            mirja.go("/deliveries");
            mirja.see(".listed td", "no. 1");
            assertThat(mirja.complaints()).isEmpty();
        }
    }

    private static void setUp(Browser mirja) {
        mirja.see(".settings button", "New product").click();
        mirja.see("[role=dialog] input");
        mirja.press("Windlass panel");
        mirja.see("[role=dialog] .tables label", "Windlass").click();
        for (String language : new String[] {"Finnish", "Polish"}) {
            WebElement picker = mirja.see("[role=dialog] [role=combobox][aria-autocomplete=list]");
            picker.click();
            mirja.press(language);
            mirja.see("[role=option]", language);
            mirja.press(Keys.ARROW_DOWN, Keys.ENTER);
        }
        type(mirja, "[role=dialog] input[aria-label='Selector number of Finnish']", "1");
        type(mirja, "[role=dialog] input[aria-label='Selector number of Polish']", "2");
        type(mirja, "[role=dialog] input[aria-label='Where missing texts in Polish come from']", "fi");
        mirja.see("[role=dialog] button", "Save").click();
        mirja.gone("[role=dialog]");
    }

    private static void addRecipe(Browser mirja) {
        mirja.see(".delivering button", "New recipe").click();
        mirja.see("[role=dialog] input");
        mirja.press("Panel texts");
        choose(mirja, "Format", "CSV");
        mirja.see("[role=dialog] .examples pre", "windlass.1");
        type(mirja, "[role=dialog] input[value='{tag}.{ext}']", "windlass-{tag}.{ext}");
        mirja.see("[role=dialog] .examples b", "windlass-pl.csv");
        mirja.see("[role=dialog] button", "Save").click();
        mirja.gone("[role=dialog]");
    }

    private static void choose(Browser mirja, String label, String option) {
        mirja.until(
                        d -> d
                                .findElements(By.xpath("//*[@role='dialog']//*[text()='" + label
                                        + "' and contains(@class, 'MuiInputLabel')]/following::*[@role='combobox'][1]"))
                                .stream()
                                .findFirst()
                                .orElse(null),
                        label)
                .click();
        mirja.see("[role=option]", option).click();
        mirja.gone("[role=listbox]");
    }

    private static void ask(Browser mirja, String asked, String key) {
        var fields = mirja.until(
                d -> d.findElements(By.cssSelector(".ofproduct aside input[type=text]"))
                                        .size()
                                >= 2
                        ? d.findElements(By.cssSelector(".ofproduct aside input[type=text]"))
                        : null,
                "the fields to ask in");
        fields.get(0).sendKeys(asked);
        fields.get(1).sendKeys(key);
    }

    private static void type(Browser mirja, String css, String text) {
        WebElement field = mirja.see(css);
        field.click();
        field.sendKeys(Keys.chord(Keys.CONTROL, "a"), text);
    }
}
