package mellow.server.delivery;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import mellow.core.language.LanguageTag;
import mellow.server.finding.FontService;
import mellow.server.rehearsal.PlaceText;
import mellow.server.rehearsal.Play;
import mellow.server.rehearsal.Rehearsal;
import mellow.server.rehearsal.SceneService;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** What does not fit where it is shown keeps a language back, and a delivery can be rehearsed. */
class SceneGateTest extends PanelCase {

    private static final String BOW =
            """
            <svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 480 270">
              <text x="14" y="26" font-size="14" data-width="120">#ramp.up#</text><text x="14" y="76" font-size="14" data-width="300">#ramp.down#</text>
            </svg>
            """;

    @Autowired
    private SceneService scenes;

    @Autowired
    private Rehearsal rehearsal;

    @Autowired
    private FontService fonts;

    private long bow;

    @BeforeEach
    void aSceneWithAFont() throws Exception {
        fonts.put(mara, "panel", null, 14, Files.readAllBytes(Path.of("../demo/ramp-panel.ttf")));
        bow = scenes.add(mara, "panel", "Bow", BOW.getBytes(StandardCharsets.UTF_8), null, false)
                .scenes()
                .get(0)
                .id();
        recipes.add(mara, "panel", "Texts", texts("csv", "each", "{tag}.csv"));
        delivered(1);
    }

    private Gates.LanguageCounts counts(String language) {
        return deliveries.overview("panel").languages().stream()
                .filter(one -> one.language().equals(language))
                .findFirst()
                .orElseThrow()
                .counts();
    }

    @Test
    void aLanguageWithATextThatDoesNotFitIsHeldBackWhereTheGateSaysSo() throws Exception {
        settle("ramp.up", "de", "Rampe sehr weit nach oben anheben");
        delivered(2);
        assertThat(counts("de").unfit()).as("counted, and let go").isEqualTo(1);
        assertThat(counts("fi").unfit()).isZero();
        gates(new Gates("hold", 0, "hold", "go", "hold"));
        settle("ramp.down", "de", "Rampe ab");
        delivered(3);
        assertThat(content(3).get("de.csv"))
                .as("what it had before")
                .isEqualTo(content(2).get("de.csv"));
        gates(new Gates("hold", 0, "hold", "go", "stop"));
        assertThat(deliver().message()).isEqualTo("de stops the delivery: 1 is to be mended where it is shown.");
        settle("ramp.up", "de", "Rampe auf");
        delivered(4);
        assertThat(new String(content(4).get("de.csv"), StandardCharsets.UTF_8)).contains("Rampe auf", "Rampe ab");
        assertThat(counts("de").unfit()).as("looked at before it was judged").isZero();
    }

    @Test
    void theLastDeliveryIsRehearsedAsItWas() {
        settle("ramp.up", "de", "Rampe auf");
        assertThat(shown(Play.DELIVERED)).isEqualTo(shown(Play.SETTLED).replace("Rampe auf", "Rampe hoch"));
        delivered(2);
        assertThat(shown(Play.DELIVERED)).startsWith("Rampe auf");
        assertThat(rehearsal
                        .play("panel", bow, new Rehearsal.Wanted(List.of(), Play.DELIVERED, Map.of()))
                        .delivery())
                .isEqualTo(2);
        assertThat(rehearsal
                        .play("panel", bow, new Rehearsal.Wanted(List.of(), Play.WRITTEN, Map.of()))
                        .delivery())
                .isNull();
    }

    @Test
    void aProductThatWasNeverDeliveredHasNoDeliveryToRehearse() {
        ledger.run("delete from delivery_texts; delete from delivery_file; delete from delivery");
        assertThatThrownBy(() -> shown(Play.DELIVERED)).hasMessageContaining("never delivered");
    }

    private String shown(Play play) {
        List<PlaceText> texts = rehearsal
                .play("panel", bow, new Rehearsal.Wanted(List.of(new LanguageTag("de")), play, Map.of()))
                .stages()
                .get(0)
                .texts();
        return String.join("/", texts.get(0).lines()) + " "
                + String.join("/", texts.get(1).lines());
    }
}
