package mellow.server.demo;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import mellow.server.finding.FindingService;
import mellow.server.support.ServerTest;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

class DemoTest extends ServerTest {

    @Autowired
    private FindingService findings;

    @Autowired
    private DemoLoader demo;

    @Test
    void looksLivedInAndIsSoundAfterLoading() {
        assertThat(demo.loaded()).isFalse();
        List<String> told = new ArrayList<>();
        demo.load(told::add);
        assertThat(told).hasSizeGreaterThan(10);
        assertThat(demo.loaded()).isTrue();
        assertThat(demo.signIns()).contains("mirja (coordinator)", "oskar (reviewer", "lina (contributor");

        assertThat(ledger.ask(Integer.class, "select count(*) from entry")).isGreaterThanOrEqualTo(400);
        assertThat(ledger.ask(Integer.class, "select count(distinct language_id) from table_language"))
                .isEqualTo(7);
        assertThat(ledger.ask(Integer.class, "select count(distinct state) from cell"))
                .as("every state but untranslated")
                .isEqualTo(5);
        assertThat(ledger.ask(Integer.class, "select count(distinct author_id) from offer where answer = 0"))
                .as("people with open offers")
                .isGreaterThanOrEqualTo(4);
        assertThat(ledger.ask(Integer.class, "select extract(day from now() - min(at))::int from cell_story"))
                .as("days of history")
                .isGreaterThan(55);
        assertThat(ledger.ask(Integer.class, "select count(*) from person where password_hash not like '$2%'"))
                .isZero();

        ledger.awaitRechecks();
        assertThat(findings.counts("").kinds())
                .as("every kind of finding, with a real cause")
                .allSatisfy(kind ->
                        assertThat(kind.stops() + kind.minds()).as(kind.kind()).isPositive());
        assertThat(ledger.differences()).isZero();
        assertThat(ledger.ask(
                        Integer.class,
                        "select count(*) from cell c left join entry e on e.id = c.entry_id where e.id is null"))
                .as("orphans")
                .isZero();
        assertThat(
                        ledger.ask(
                                Integer.class,
                                "select count(*) from cell c where c.text is not null and not exists (select 1 from cell_story s where s.entry_id = c.entry_id and s.language_id = c.language_id and s.after = c.text)"))
                .as("texts that the story does not tell")
                .isZero();
        assertThat(
                        ledger.ask(
                                Integer.class,
                                "select count(*) from cell c where open_offers <> (select count(*) from offer o where o.entry_id = c.entry_id and o.language_id = c.language_id and o.answer = 0)"))
                .as("wrong numbers of open offers")
                .isZero();
    }
}
