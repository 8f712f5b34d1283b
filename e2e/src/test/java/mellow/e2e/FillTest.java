package mellow.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.util.List;
import mellow.core.language.LanguageTag;
import mellow.server.people.PeopleService;
import mellow.server.table.TableInfo.Kept;
import mellow.server.table.TableService;
import org.junit.jupiter.api.Test;
import org.openqa.selenium.By;
import org.openqa.selenium.Keys;
import org.openqa.selenium.WebElement;
import org.springframework.jdbc.core.simple.JdbcClient;

/** Five hundred empty cells get what was settled elsewhere: seen before, pencilled, and taken back as one. */
class FillTest {

    private static final int MANY = 500;

    private static void takeIn(String table, boolean texts) {
        StringBuilder csv = new StringBuilder("key,en,fi\n");
        for (int i = 0; i < MANY; i++) {
            // Every tenth differs in its number only.
            int number = i % 10 == 0 && !texts ? i + 10_000 : i + 5_000;
            csv.append("berth.").append(i).append(",Berth ").append(number).append(" is free,");
            csv.append(texts ? "Laituri " + number + " on vapaa" : "").append('\n');
        }
        DemoServer.takeIn(table, table + ".csv", csv.toString().getBytes(StandardCharsets.UTF_8));
    }

    @Test
    void fiveHundredAreFilledFromTheSameAndSimilarSources() {
        takeIn("Berths of old", true);
        takeIn("Berths", false);
        try (Browser browser = DemoServer.browse()) {
            browser.go("/ledger?table=berths&in=fi&only=untranslated");
            browser.signIn("mirja", DemoServer.PASSWORD);
            browser.see(".line .key");
            browser.see("button", "Scope").click();
            browser.see("[role=menuitem]", "Fill untranslated texts").click();
            browser.see(".filling [role=status]", "450 from the same source, 0 from a similar one; 50 would be left");
            browser.see(".filling .fields > :nth-child(2) [role=combobox]").click();
            browser.see("[role=option]", "95 %").click();
            browser.see(".filling [role=status]", "450 from the same source, 50 from a similar one; 0 would be left");
            assertThat(browser.see(".filling .fill").getText())
                    .contains("Laituri 10000 on vapaa")
                    .contains("adapted: 10000 for");
            browser.see(".filling .fill .MuiCheckbox-root").click();
            browser.see("button", "Pencil 499 texts").click();
            browser.see("[role=alert], .MuiSnackbarContent-message", "499 texts were pencilled");
            assertThat(pencilled()).isEqualTo(499);
            browser.see("[role=grid]").click();
            browser.chord(Keys.CONTROL, "z");
            browser.until(d -> pencilled() == 0 ? true : null, "all to be taken back");
            browser.until(
                    d -> d.findElements(By.cssSelector(".line .key")).isEmpty() ? null : true,
                    "the entries to be there");
        }
    }

    /** 200 with the same source elsewhere, 150 that differ in a number, 150 that nothing is like. */
    private static void threeWells() {
        StringBuilder old = new StringBuilder("key,en,fi\n");
        StringBuilder fresh = new StringBuilder("key,en,fi\n");
        for (int i = 0; i < 200; i++) {
            old.append("quay.").append(i).append(",Quay %d is taken,Laituri %<d on varattu\n".formatted(i + 7_000));
            fresh.append("a.").append(i).append(",Quay %d is taken,\n".formatted(i + 7_000));
        }
        for (int i = 0; i < 150; i++) {
            fresh.append("b.").append(i).append(",Quay %d is taken,\n".formatted(i + 20_000));
            fresh.append("c.")
                    .append(i)
                    .append(",Gate %d of the harbour: passengers of {ferry} please wait,\n".formatted(i));
        }
        DemoServer.takeIn("Quays of old", "old.csv", old.toString().getBytes(StandardCharsets.UTF_8));
        DemoServer.takeIn("Quays", "quays.csv", fresh.toString().getBytes(StandardCharsets.UTF_8));
        long mirja =
                DemoServer.part(PeopleService.class).find("mirja").orElseThrow().id();
        DemoServer.part(TableService.class)
                .edit(mirja, "quays", 0, "Quays", List.of(new Kept(new LanguageTag("fi"), 0, true, false)));
    }

    @Test
    void fiveHundredFromThreeWellsTenOfThemCorrectedAndTheRestTakenBack() {
        threeWells();
        try (Browser browser = DemoServer.browse()) {
            browser.go("/memory?view=drafts");
            browser.signIn("mirja", DemoServer.PASSWORD);
            browser.see("button", "Add a drafting service").click();
            WebElement name = browser.see("[role=dialog] input");
            // On a busy machine the dialog takes the focus after it is seen.
            browser.until(d -> name.equals(browser.focused()) ? true : null, "the dialog to have the focus");
            name.sendKeys("Harbour drafts");
            field(browser, "Address").sendKeys("http://" + DemoServer.DRAFTER.authority() + "/");
            field(browser, "Secret").sendKeys("tide");
            browser.see("button:enabled", "Save").click();
            browser.see(".drafts table", "Harbour drafts");

            browser.go("/ledger?table=quays&in=fi");
            browser.see(".line .key");
            browser.see("button", "Scope").click();
            browser.see("[role=menuitem]", "Fill untranslated texts").click();
            browser.see(".filling .fields > :nth-child(2) [role=combobox]").click();
            browser.see("[role=option]", "95 %").click();
            browser.see(
                    ".filling [role=status]", "200 from the same source, 150 from a similar one; 150 would be left");
            browser.see(".filling .fields > :nth-child(3) [role=combobox]").click();
            browser.see("[role=option]", "Harbour drafts").click();
            browser.see(".filling", "150 texts of");
            browser.see("button:enabled", "Pencil 350, draft 150").click();
            browser.see("[role=alert], .MuiSnackbarContent-message", "500 texts were pencilled");
            assertThat(origins()).isEqualTo("draft 150, memory 350");

            // The last of them was drafted; the footnotes say so.
            browser.see("[role=grid]").click();
            browser.chord(Keys.CONTROL, Keys.END);
            browser.see(".notes, .footnotes", "drafted by a machine");
            browser.chord(Keys.CONTROL, Keys.HOME);
            for (int i = 0; i < 10; i++) {
                int settled = i;
                browser.press(Keys.F2);
                browser.see("textarea").sendKeys(" – tarkistettu");
                browser.chord(Keys.CONTROL, Keys.ENTER);
                browser.until(d -> settled() == settled + 1 ? true : null, "one more to be settled");
                browser.until(
                        d -> d.findElements(By.cssSelector(".line.open textarea"))
                                        .isEmpty()
                                ? true
                                : null,
                        "the editor to be closed");
                browser.press(Keys.ARROW_DOWN);
            }

            browser.go("/memory?view=fills");
            browser.see("button", "Take back what nobody touched").click();
            browser.see(".MuiSnackbarContent-message", "490 taken back; 10 were changed since and stay");
            assertThat(settled()).isEqualTo(10);
            assertThat(origins()).isEqualTo("typed 10");
            browser.go("/memory?view=drafts");
            browser.see(".drafts table", "Harbour drafts");
        }
    }

    private static org.openqa.selenium.WebElement field(Browser browser, String label) {
        return browser.until(
                d -> d.findElements(By.xpath("//label[.='" + label + "']/following::input[1]")).stream()
                        .findFirst()
                        .orElse(null),
                "the field " + label);
    }

    private static int settled() {
        return DemoServer.part(JdbcClient.class)
                .sql(
                        """
                        select count(*)::int from cell c join entry e on e.id = c.entry_id join ledger_table t on t.id = e.table_id
                        where t.slug = 'quays' and c.state = 3
                        """)
                .query(Integer.class)
                .single();
    }

    private static String origins() {
        return DemoServer.part(JdbcClient.class)
                .sql(
                        """
                        select coalesce(string_agg(origin || ' ' || n, ', ' order by origin), '') from (
                            select c.origin, count(*) n from cell c join entry e on e.id = c.entry_id join ledger_table t on t.id = e.table_id
                            where t.slug = 'quays' and c.text is not null group by 1) s
                        """)
                .query(String.class)
                .single();
    }

    private static int pencilled() {
        return DemoServer.part(JdbcClient.class)
                .sql(
                        """
                        select count(*)::int from cell c join entry e on e.id = c.entry_id join ledger_table t on t.id = e.table_id
                        where t.slug = 'berths' and c.text is not null
                        """)
                .query(Integer.class)
                .single();
    }
}
