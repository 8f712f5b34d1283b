package mellow.server.board;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import mellow.core.merge.Arrival;
import mellow.server.cell.CellChange;
import mellow.server.cell.CellChange.Action;
import mellow.server.common.LedgerClock;
import mellow.server.coverage.CoverageService;
import mellow.server.people.Level;
import mellow.server.support.Http;
import mellow.server.support.ServerTest;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.simple.JdbcClient;
import tools.jackson.databind.JsonNode;

class BoardTest extends ServerTest {

    @Autowired
    private Http http;

    @Autowired
    private CoverageService coverage;

    @Autowired
    private JdbcClient jdbc;

    @Autowired
    private LedgerClock clock;

    private long mara;
    private long lina;

    @BeforeEach
    void aTable() {
        mara = ledger.coordinator("mara");
        lina = ledger.person("lina", "de", Level.CONTRIBUTOR);
        ledger.takeIn(mara, "Ramp", "key,en,de,fi\nup,Ramp up,Rampe oben,\ndown,Ramp down now,,\n", Arrival.SETTLED);
    }

    private JsonNode left(String query) throws Exception {
        return http.get(mara, "/api/board/left?" + query).body();
    }

    @Test
    void newsAreWhatOthersDidAddedUp() throws Exception {
        ledger.change(lina, "down", "de", CellChange.text(Action.PUT_FORWARD, 0, "Unten"));
        ledger.change(lina, "down", "de", CellChange.text(Action.PUT_FORWARD, 1, "Ganz unten"));
        JsonNode lines = http.get(mara, "/api/board/news").body().path("lines");
        assertThat(lines.size()).as("one's own intake is no news").isEqualTo(1);
        assertThat(lines.get(0).path("what").asString()).isEqualTo("offered");
        assertThat(lines.get(0).path("amount").asInt()).isEqualTo(2);
        assertThat(lines.get(0).path("language").asString()).isEqualTo("de");
        assertThat(lines.get(0).path("person").asString()).isEqualTo("LINA");
        JsonNode linas = http.get(lina, "/api/board/news").body().path("lines");
        assertThat(linas.get(0).path("what").asString()).isEqualTo("taken_in");
        assertThat(linas.get(0).path("intake").asLong()).isPositive();
    }

    @Test
    void oldNewsAreNone() throws Exception {
        jdbc.sql("update person set created_at = now() + interval '1 hour' where id = :id")
                .param("id", lina)
                .update();
        assertThat(http.get(lina, "/api/board/news").body().path("lines").size())
                .isZero();
    }

    @Test
    void whoWasAwayForAnHourSeesNewsSinceThen() throws Exception {
        jdbc.sql("update person set seen_at = now() - interval '2 days' where id = :id")
                .param("id", lina)
                .update();
        http.get(lina, "/api/session");
        assertThat(ledger.ask(
                        Boolean.class,
                        "select last_here < now() - interval '47 hours' and seen_at > now() - interval '1 minute' from person where id = "
                                + lina))
                .isTrue();
        http.get(lina, "/api/session");
        assertThat(ledger.ask(
                        Boolean.class, "select last_here < now() - interval '47 hours' from person where id = " + lina))
                .as("a reload is no new visit")
                .isTrue();
    }

    @Test
    void whatIsLeftTodayComesFromTheCountersAndOlderDaysFromTheirNotes() throws Exception {
        LocalDate today = LocalDate.now(ZoneOffset.UTC);
        clock.at(Instant.now(Clock.systemUTC()).minus(Duration.ofDays(3)), coverage::noteDay);
        ledger.takeIn(mara, "Ramp", "key,en,fi\nup,Ramp up,Ylös\n", Arrival.SETTLED);
        JsonNode finnish = left("in=fi").get(0);
        assertThat(finnish.path("points").toString())
                .isEqualTo(
                        "[{\"day\":\"" + today.minusDays(3) + "\",\"left\":2},{\"day\":\"" + today + "\",\"left\":1}]");
        assertThat(finnish.path("forecast").isMissingNode()).isTrue();
        JsonNode words = left("in=de&words=true").get(0);
        assertThat(words.path("points").get(1).path("left").asInt()).isEqualTo(3);
        assertThat(left("table=nowhere").size()).isZero();
    }

    @Test
    void aSteadyPaceHasAForecast() throws Exception {
        LocalDate today = LocalDate.now(ZoneOffset.UTC);
        for (int ago = 20; ago > 0; ago--) {
            jdbc.sql(
                            """
                            insert into coverage_day (table_id, language_id, day, entries, words)
                            select t.id, l.id, :day, :left, :left from ledger_table t, language l where l.tag = 'de'
                            """)
                    .param("day", today.minusDays(ago))
                    .param("left", 1 + ago)
                    .update();
        }
        JsonNode forecast = left("in=de").get(0).path("forecast");
        assertThat(forecast.path("expected").asString())
                .isEqualTo(today.plusDays(1).toString());
    }
}
