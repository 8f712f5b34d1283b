package mellow.core.check;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import mellow.core.asset.AssetFacts;
import mellow.core.asset.AssetKind;
import mellow.core.check.Finding.Severity;
import mellow.core.language.LanguageTag;
import mellow.core.text.Places;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Pictures and sounds that differ from that of the source in what a product's place depends on are found, and those that differ as languages do are not. */
class AssetCheckTest {

    private static final AssetFacts LOGO = AssetFacts.picture(AssetKind.PNG, 900, 64, 32);
    private static final AssetFacts VOICE = AssetFacts.sound(AssetKind.OGG, 9000, 2400);

    private static List<Finding> found(@Nullable AssetFacts source, String name, AssetFacts file, Settings settings) {
        return Checks.ofAsset(
                source,
                name,
                file,
                Ground.of(new LanguageTag("en"), new LanguageTag("fi")).with(settings));
    }

    private static Settings weighing(Weight weight) {
        return Settings.of(Map.of(Kind.ASSET, weight), List.of(), "", 0, "");
    }

    @ParameterizedTest
    @CsvSource({
        "PNG, 64, 32, logo_fi.png, ''",
        "PNG, 64, 33, logo_fi.png, '64 × 33 pixels, and the source has 64 × 32.'",
        "PNG, 63, 32, logo_fi.PNG, '63 × 32 pixels, and the source has 64 × 32.'",
        "JPEG, 64, 32, logo_fi.jpg, 'JPEG, and the source is PNG.'",
        "JPEG, 64, 32, logo_fi.png, 'The name promises PNG, and the file is JPEG.|JPEG, and the source is PNG.'",
        "SVG, 0, 0, logo_fi.svg, 'SVG, and the source is PNG.'",
        "PNG, 64, 32, logo, ''",
    })
    void pictures(AssetKind kind, int width, int height, String name, String expected) {
        assertThat(found(LOGO, name, AssetFacts.picture(kind, 1, width, height), Settings.USUAL))
                .extracting(AssetCheckTest::sentence)
                .containsExactlyElementsOf(expected.isEmpty() ? List.of() : List.of(expected.split("\\|")));
    }

    private static String sentence(Finding finding) {
        return Places.filled(finding.sentence(), finding.values());
    }

    @ParameterizedTest
    @CsvSource({
        "2400, false",
        "3600, false",
        "3601, true",
        "1600, false",
        "1599, true",
        "0, false",
    })
    void sounds(long milliseconds, boolean other) {
        assertThat(found(VOICE, "a.ogg", AssetFacts.sound(AssetKind.OGG, 1, milliseconds), Settings.USUAL))
                .extracting(Finding::code)
                .isEqualTo(other ? List.of("asset-other-length") : List.of());
    }

    @Test
    void shortSoundsDifferByHalfASecondWithoutAnybodyNoticing() {
        AssetFacts beep = AssetFacts.sound(AssetKind.WAV, 1, 100);
        assertThat(found(beep, "a.wav", AssetFacts.sound(AssetKind.WAV, 1, 600), Settings.USUAL))
                .isEmpty();
        assertThat(found(beep, "a.wav", AssetFacts.sound(AssetKind.WAV, 1, 601), Settings.USUAL))
                .hasSize(1);
    }

    @Test
    void withoutASourceOnlyTheNameIsLookedAt() {
        assertThat(found(null, "a.png", VOICE, Settings.USUAL)).hasSize(1);
        assertThat(found(null, "a.ogg", VOICE, Settings.USUAL)).isEmpty();
    }

    @Test
    void itMindsAndATableCanStopByItOrSwitchItOff() {
        AssetFacts other = AssetFacts.picture(AssetKind.PNG, 1, 1, 1);
        assertThat(found(LOGO, "a.png", other, Settings.USUAL).get(0).severity())
                .isEqualTo(Severity.WARNING);
        assertThat(found(LOGO, "a.png", other, weighing(Weight.STOP)).get(0).blocks())
                .isTrue();
        assertThat(found(LOGO, "a.png", other, weighing(Weight.OFF))).isEmpty();
    }
}
