package mellow.core.bundle;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import mellow.core.delivery.UndeliverableException;
import mellow.core.language.LanguageTag;
import mellow.core.product.ProductLanguage;
import mellow.core.product.ProductLanguages;
import org.junit.jupiter.api.Test;

/** What a program gets of a language, and what changed since it asked last. */
class BundleTest {

    private static final LanguageTag EN = new LanguageTag("en");
    private static final LanguageTag DE = new LanguageTag("de");
    private static final LanguageTag FI = new LanguageTag("fi");

    private final Map<LanguageTag, Map<Long, BundleText>> texts = new LinkedHashMap<>();
    private final ProductLanguages product = ProductLanguages.of(
            List.of(
                    new ProductLanguage(EN, null, false, List.of(), ""),
                    new ProductLanguage(DE, null, false, List.of(), ""),
                    new ProductLanguage(FI, null, false, List.of(DE), "")),
            EN,
            EN,
            Map.of());

    private BundleTest say(LanguageTag tag, long entry, String key, String... forms) {
        TreeMap<String, String> said = new TreeMap<>();
        for (int i = 0; i < forms.length; i += 2) {
            said.put(forms[i], forms[i + 1]);
        }
        texts.computeIfAbsent(tag, any -> new LinkedHashMap<>()).put(entry, new BundleText(key, "", said));
        return this;
    }

    private Bundle bundle(LanguageTag tag, boolean whole) {
        return Bundle.of(product, tag, EN, whole, one -> texts.getOrDefault(one, Map.of()));
    }

    @Test
    void aWholeBundleBorrowsAndSaysFromWhere() {
        say(EN, 1, "ramp.up", "other", "Ramp up").say(EN, 2, "ramp.cars", "one", "{n} car", "other", "{n} cars");
        say(EN, 3, "stop", "other", "Stop").say(DE, 2, "ramp.cars", "one", "{n} Auto", "other", "{n} Autos");
        say(FI, 1, "ramp.up", "other", "Ramppi ylös");
        Bundle whole = bundle(FI, true);
        assertThat(whole.texts())
                .isEqualTo(Map.of(
                        "ramp.up",
                        "Ramppi ylös",
                        "ramp.cars",
                        Map.of("one", "{n} Auto", "other", "{n} Autos"),
                        "stop",
                        "Stop"));
        assertThat(whole.borrowed()).isEqualTo(Map.of("ramp.cars", "de", "stop", "en"));
        Bundle own = bundle(FI, false);
        assertThat(own.texts()).isEqualTo(Map.of("ramp.up", "Ramppi ylös"));
        assertThat(own.borrowed()).isEmpty();
    }

    @Test
    void whatOnlyTheSourceSaysIsBorrowedFromItAndWhatNobodySaysIsAbsent() {
        say(EN, 1, "a", "other", "A").say(FI, 2, "b", "other", "B");
        ProductLanguages german = ProductLanguages.of(product.all(), DE, EN, Map.of());
        Bundle bundle = Bundle.of(german, DE, EN, true, one -> texts.getOrDefault(one, Map.of()));
        assertThat(bundle.texts()).isEqualTo(Map.of("a", "A"));
        assertThat(bundle.borrowed()).isEqualTo(Map.of("a", "en"));
    }

    @Test
    void whatIsOnlyOfferedIsNamedUntilTheSameWordsAreInForce() {
        say(EN, 1, "a", "other", "A").say(EN, 2, "b", "other", "B");
        TreeMap<String, String> said = new TreeMap<>(Map.of("other", "Ä"));
        texts.computeIfAbsent(FI, any -> new LinkedHashMap<>()).put(1L, new BundleText("a", "", said, true));
        Bundle before = bundle(FI, true);
        assertThat(before.offered()).containsExactly("a");
        texts.get(FI).put(1L, new BundleText("a", "", said));
        Bundle after = bundle(FI, true);
        assertThat(after.offered()).isEmpty();
        assertThat(after.since(before).changed().texts()).isEqualTo(Map.of("a", "Ä"));
        assertThat(after.since(before).isNone()).isFalse();
        assertThat(before.since(after).changed().offered()).containsExactly("a");
        assertThat(after.since(after).isNone()).isTrue();
        texts.get(EN).remove(2L);
        assertThat(bundle(FI, true).since(after).isNone())
                .as("something is gone")
                .isFalse();
    }

    @Test
    void whatChangedAndWhatWentIsToldAndNothingElse() {
        say(EN, 1, "a", "other", "A").say(EN, 2, "b", "other", "B").say(EN, 3, "c", "other", "C");
        say(FI, 2, "b", "other", "B");
        Bundle then = bundle(FI, true);
        assertThat(then.since(then).changed().texts()).isEmpty();
        texts.get(EN).remove(3L);
        say(FI, 1, "a", "other", "A").say(EN, 4, "d", "other", "D");
        Bundle.Change change = bundle(FI, true).since(then);
        // The same words are another text where they are of another language.
        assertThat(change.changed().texts()).isEqualTo(Map.of("a", "A", "d", "D"));
        assertThat(change.changed().borrowed()).isEqualTo(Map.of("d", "en"));
        assertThat(change.gone()).containsExactly("c");
    }

    @Test
    void dotsAreLevelsWhereNoTextIsOne() {
        say(DE, 1, "deck.ramp.up", "other", "Hoch").say(DE, 2, "deck.ramp.cars", "one", "a", "other", "b");
        say(DE, 3, "deck..x", "other", "Leer").say(DE, 4, "stop", "other", "Halt");
        assertThat(bundle(DE, false).nested())
                .isEqualTo(Map.of(
                        "deck",
                        Map.of(
                                "ramp", Map.of("up", "Hoch", "cars", Map.of("one", "a", "other", "b")),
                                "", Map.of("x", "Leer")),
                        "stop",
                        "Halt"));
        say(DE, 5, "deck.ramp", "other", "Rampe");
        assertThatThrownBy(() -> bundle(DE, false).nested())
                .isInstanceOf(UndeliverableException.class)
                .hasMessageContaining("deck.ramp");
        say(DE, 5, "deck.ramp.cars.one", "other", "Eins");
        assertThatThrownBy(() -> bundle(DE, false).nested()).hasMessageContaining("deck.ramp.cars.one");
    }

    @Test
    void levelsWithoutEndAreRefused() {
        say(DE, 1, ".".repeat(50_000), "other", "Punkte");
        assertThatThrownBy(() -> bundle(DE, false).nested()).hasMessageContaining("more than 100 parts");
        assertThat(bundle(DE, false).texts()).hasSize(1);
    }

    @Test
    void aContextStandsBeforeItsKeyAndTwoOfOneNameAreRefused() {
        texts.put(
                DE,
                new LinkedHashMap<>(Map.of(
                        1L,
                        new BundleText("open", "verb", new TreeMap<>(Map.of("other", "Öffnen"))),
                        2L,
                        new BundleText("open", "", new TreeMap<>(Map.of("other", "Offen"))))));
        assertThat(bundle(DE, true).texts()).isEqualTo(Map.of("verb\u0004open", "Öffnen", "open", "Offen"));
        say(DE, 3, "open", "other", "Auf");
        assertThatThrownBy(() -> bundle(DE, true)).hasMessageContaining("Two entries would be called “open”");
    }
}
