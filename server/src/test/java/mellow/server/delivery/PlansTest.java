package mellow.server.delivery;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.IntStream;
import mellow.core.merge.Arrival;
import mellow.server.people.PeopleService;
import mellow.server.product.ProductService;
import mellow.server.product.ProductService.Definition;
import mellow.server.product.ProductService.Selected;
import mellow.server.support.ServerTest;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.simple.JdbcClient;

/** Two servers look at one schedule: exactly one of them delivers, each time, also on days whose clocks are changed. */
class PlansTest extends ServerTest {

    private static final ZoneId HELSINKI = ZoneId.of("Europe/Helsinki");

    @Autowired
    private ProductService products;

    @Autowired
    private PeopleService people;

    @Autowired
    private JdbcClient jdbc;

    private Plans at(Instant now) {
        return new Plans(products, people, jdbc, Clock.fixed(now, ZoneOffset.UTC));
    }

    /** Has the product go out at times, as it is set at a moment. */
    private long planned(String times, Instant now) {
        long mara = ledger.coordinator("mara");
        ledger.takeIn(mara, "Ramp", "key,en,fi\nup,Ramp up,Ramppi ylös\n", Arrival.SETTLED);
        products.create(
                mara, new Definition(0, "Panel", "panel", List.of("ramp"), List.of(new Selected("fi", 1)), "fi"));
        at(now).change(
                        mara,
                        "panel",
                        new Plans.DeliveryPlan(
                                Gates.USUAL,
                                false,
                                null,
                                List.of(times.split(" ")),
                                HELSINKI.getId(),
                                null,
                                null,
                                "",
                                0));
        return products.find("panel").id();
    }

    @ParameterizedTest
    @CsvSource({
        // At 03:00 it is 04:00 that day: 03:30 comes as much later as the clocks jump.
        "2027-03-27T10:00, 2027-03-29T10:00, 03:30, '2027-03-28T01:30:00Z 2027-03-29T00:30:00Z'",
        // At 04:00 it is 03:00 again: 03:30 is twice, and once is enough.
        "2026-10-24T10:00, 2026-10-26T10:00, 03:30, '2026-10-25T00:30:00Z 2026-10-26T01:30:00Z'",
        "2026-10-24T10:00, 2026-10-25T10:00, 02:59 04:01, '2026-10-24T23:59:00Z 2026-10-25T02:01:00Z'",
    })
    void exactlyOneOfTwoServersDeliversAtEachTime(String from, String to, String times, String claimed) {
        Instant now = Instant.parse(from + ":00Z");
        long panel = planned(times, now);
        List<Instant> done = new ArrayList<>();
        for (; now.isBefore(Instant.parse(to + ":00Z")); now = now.plus(Duration.ofMinutes(1))) {
            Plans here = at(now);
            if (here.due().isEmpty()) {
                continue;
            }
            long claims = IntStream.range(0, 2)
                    .parallel()
                    .filter(server -> here.claim(panel))
                    .count();
            assertThat(claims).as(now.toString()).isEqualTo(1);
            done.add(now);
        }
        assertThat(done).map(Instant::toString).containsExactly(claimed.split(" "));
    }

    @Test
    void timesThatWereMissedAreMadeUpOnce() {
        Instant now = Instant.parse("2026-11-02T10:00:00Z");
        long panel = planned("06:30 18:00", now);
        Plans daysLater = at(now.plus(Duration.ofDays(5)));
        assertThat(daysLater.due()).hasSize(1);
        assertThat(daysLater.claim(panel)).isTrue();
        assertThat(daysLater.claim(panel)).isFalse();
        assertThat(daysLater.due()).isEmpty();
        assertThat(daysLater.of(panel).nextAt()).isEqualTo(Instant.parse("2026-11-07T16:00:00Z"));
    }
}
