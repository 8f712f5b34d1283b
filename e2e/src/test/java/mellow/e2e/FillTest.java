package mellow.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import org.junit.jupiter.api.Test;
import org.openqa.selenium.By;
import org.openqa.selenium.Keys;
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
