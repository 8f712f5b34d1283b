package mellow.server.coverage;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Random;
import mellow.core.language.LanguageTag;
import mellow.core.merge.Arrival;
import mellow.server.cell.CellChange;
import mellow.server.cell.CellChange.Action;
import mellow.server.cell.CellReader;
import mellow.server.cell.CellView;
import mellow.server.common.Refusal;
import mellow.server.language.LanguageService;
import mellow.server.people.Level;
import mellow.server.support.ServerTest;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.springframework.beans.factory.annotation.Autowired;

/** Whatever people do, in whatever order: the counters are what a recount gives, and no settled text goes without a trace. */
class CoverageWalkTest extends ServerTest {

    private static final List<String> KEYS = List.of("up", "down", "mid");

    @Autowired
    private CellReader cells;

    @Autowired
    private LanguageService languages;

    @ParameterizedTest
    @ValueSource(longs = {11, 12, 13})
    void countersEqualARecount(long seed) {
        Random random = new Random(seed);
        long mara = ledger.coordinator("mara");
        ledger.takeIn(
                mara,
                "Walk",
                "key,en,de\nup,Ramp up,Rampe oben\ndown,Ramp down,\nmid,Half way there,\n",
                Arrival.SETTLED);
        List<Long> people = List.of(
                mara, ledger.person("oskar", "de", Level.REVIEWER), ledger.person("lina", "de", Level.CONTRIBUTOR));
        int german = languages.number(new LanguageTag("de"));
        int changed = 0;
        for (int step = 0; step < 150; step++) {
            String key = KEYS.get(random.nextInt(KEYS.size()));
            if (random.nextInt(25) == 0) {
                ledger.takeIn(mara, "Walk", "key,en\n" + key + ",Source " + step + " of many\n", Arrival.SETTLED);
                continue;
            }
            CellView now = cells
                    .read(List.of(ledger.entry(key)), List.of(german))
                    .getOrDefault(ledger.entry(key), List.of())
                    .stream()
                    .findFirst()
                    .orElse(null);
            Long offer = now == null || now.offers().isEmpty()
                    ? null
                    : now.offers().get(0).id();
            Action action = Action.values()[random.nextInt(Action.values().length - 1)];
            CellChange change = new CellChange(
                    action,
                    now == null ? 0 : now.version(),
                    "Text " + random.nextInt(4),
                    offer,
                    "because",
                    random.nextBoolean(),
                    null);
            try {
                ledger.change(people.get(random.nextInt(people.size())), key, "de", change);
                changed++;
            } catch (Refusal refused) {
                assertThat(refused.code()).isNotEqualTo("cell-moved-on");
            }
            assertThat(ledger.differences()).as("after %s of %s", action, key).isZero();
        }
        assertThat(changed).isGreaterThan(30);
        assertThat(
                        ledger.ask(
                                Integer.class,
                                "select count(*) from cell c where c.text is not null and not exists (select 1 from cell_story s where s.entry_id = c.entry_id and s.after = c.text)"))
                .isZero();
    }
}
