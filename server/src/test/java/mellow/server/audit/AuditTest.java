package mellow.server.audit;

import static org.assertj.core.api.Assertions.assertThat;

import mellow.core.merge.Arrival;
import mellow.server.support.ServerTest;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.simple.JdbcClient;

/** Every kind of damage is found: each line breaks one thing by hand. */
class AuditTest extends ServerTest {

    @Autowired
    private JdbcClient jdbc;

    @BeforeEach
    void aSoundRecord() {
        long mara = ledger.coordinator("mara");
        ledger.takeIn(mara, "Ramp", "key,en,de,fi\nup,Ramp up,Rampe oben,Ylös\n", Arrival.SETTLED);
        ledger.takeIn(mara, "Ramp", "key,en,de\nup,Ramp up,Rampe hoch\n", Arrival.OFFERED);
        assertThat(ledger.differences()).isZero();
    }

    @AfterEach
    void mend() {
        ledger.empty();
    }

    @ParameterizedTest(name = "{1}")
    @CsvSource(
            delimiter = '|',
            value = {
                "update coverage set entries = entries + 1 where state = 3|counters equal a recount",
                "delete from coverage|counters equal a recount",
                "update ledger_table set words = words + 1|totals of tables equal a recount",
                "update cell set open_offers = 0 where open_offers > 0|open offers are counted in their cells",
                "update entry set meaning_revision = 7, source_revision = 7|every cell shows the state that its text and offers give",
                "update cell set text = 'nobody wrote this' where text is not null|every text is reachable in its story",
                "insert into cell_story (entry_id, language_id, at, person_id, what, origin, standing, based_on, version) select entry_id, language_id, now(), author_id, 'settled', 'typed', 2, 1, version + 5 from cell|versions only grow",
                "update cell set author_id = 0|no entry, cell, offer or story line is without its table, entry, language and person"
            })
    void damageIsFound(String damage, String check) {
        jdbc.sql(damage).update();
        assertThat(ledger.audit())
                .filteredOn(finding -> finding.check().equals(check))
                .singleElement()
                .satisfies(finding -> assertThat(finding.differences()).isPositive());
    }
}
