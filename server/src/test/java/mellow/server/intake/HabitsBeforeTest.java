package mellow.server.intake;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import mellow.core.merge.Arrival;
import mellow.server.support.ServerTest;
import org.junit.jupiter.api.Test;

/** Paths that were taken in before habits could be chosen are understood as they were then. */
class HabitsBeforeTest extends ServerTest {

    @Test
    void whatTheRecordWasMadeByHolds() throws IOException {
        String sql;
        try (var in = getClass().getResourceAsStream("/db/migration/V10__round_trip.sql")) {
            sql = new String(in.readAllBytes(), StandardCharsets.UTF_8);
        }
        long mara = ledger.coordinator("mara");
        String po =
                "msgid \"\"\nmsgstr \"Language: fi\\n\"\n\nmsgctxt \"Button\"\nmsgid \"Open it\"\nmsgstr \"Avaa\"\n";
        ledger.takeIn(mara, "A", "a_fi.po", po.getBytes(StandardCharsets.UTF_8), Arrival.SETTLED);
        String json = "{\"a\": \"A\"}";
        ledger.takeIn(mara, "B", "b_en.json", json.getBytes(StandardCharsets.UTF_8), Arrival.SETTLED);
        ledger.run("update master_file set options = options - 'keys' - 'siblings'");
        for (String statement : sql.substring(sql.indexOf("update master_file")).split(";")) {
            if (!statement.isBlank()) {
                ledger.run(statement);
            }
        }
        assertThat(
                        ledger.ask(
                                String.class,
                                "select string_agg(path || ' ' || coalesce(options ->> 'keys', options ->> 'siblings'), ', ' order by path) from master_file"))
                .isEqualTo("a_fi.po SOURCE, b_en.json FORMS");
    }
}
