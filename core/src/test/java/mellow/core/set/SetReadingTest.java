package mellow.core.set;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.IntStream;
import mellow.core.format.FileEntry;
import mellow.core.format.FileReading;
import mellow.core.format.FileReading.Field;
import mellow.core.format.FileState;
import mellow.core.format.FileText;
import mellow.core.language.LanguageTag;
import mellow.core.set.SetReading.Part;
import mellow.core.text.Shape;
import org.junit.jupiter.api.Test;

/** Files of a set read as one. */
class SetReadingTest {

    private static final LanguageTag EN = new LanguageTag("en");

    private static SetReading set(Part... parts) {
        return new SetReading(EN, List.of(parts));
    }

    private static Part source(FileReading file) {
        return new Part("en", file, true);
    }

    private static Part part(FileReading file) {
        return new Part("other", file, false);
    }

    private static List<String> texts(SetReading set, int index) {
        return set.entry(index).texts().stream().map(FileText::main).toList();
    }

    @Test
    void isOneFileOfManyLanguagesInTheOrderOfTheSource() {
        SetReading set = set(
                part(SetFiles.reading("de", "b=Zu", "a=Auf")),
                source(SetFiles.reading("en", "a=Open", "b=Shut", "c=Full")),
                part(SetFiles.reading("fi", "c=T\u00e4ysi")));
        assertThat(set.languages()).extracting(LanguageTag::value).containsExactly("en", "de", "fi");
        assertThat(set.sourceLanguage()).contains(EN);
        assertThat(IntStream.range(0, set.size()).mapToObj(i -> set.id(i).key()))
                .containsExactly("a", "b", "c");
        assertThat(texts(set, 0)).containsExactly("Open", "Auf", "");
        assertThat(texts(set, 2)).containsExactly("Full", "", "T\u00e4ysi");
    }

    @Test
    void whatTheSourceLacksComesLastAndDoesNotStand() {
        SetReading set = set(
                part(SetFiles.reading("de", "old=Alt", "a=Auf", "older=\u00c4lter")),
                source(SetFiles.reading("en", "a=Open")),
                part(SetFiles.reading("fi", "old=Vanha")));
        assertThat(IntStream.range(0, set.size()).mapToObj(i -> set.id(i).key() + " " + set.stands(i)))
                .containsExactly("a true", "old false", "older false");
        assertThat(texts(set, 1)).containsExactly("", "Alt", "Vanha");
        assertThat(IntStream.range(0, 3).map(set::unknownIn)).containsExactly(2, 0, 1);
        assertThat(IntStream.range(0, 3).map(set::missingIn)).containsExactly(0, 0, 1);
        assertThat(IntStream.range(0, 3).map(set::textsIn)).containsExactly(3, 1, 1);
    }

    @Test
    void withoutAFileOfTheSourcesEveryEntryStandsAndNoneIsMissing() {
        SetReading set = set(part(SetFiles.reading("de", "a=Auf")), part(SetFiles.reading("fi", "b=Kiinni")));
        assertThat(set.sourceLanguage()).isEmpty();
        assertThat(set.sourceColumn(EN)).isEqualTo(-1);
        assertThat(set.stands(0) && set.stands(1)).isTrue();
        assertThat(set.missingIn(0)).isZero();
    }

    @Test
    void cataloguesBringTheirOwnSources() {
        SetReading set = set(
                part(SetFiles.bilingual("en", "de", "a|Open|Auf", "b|Shut|")),
                part(SetFiles.bilingual("en", "fi", "b|Shut|Kiinni", "c|Full|T\u00e4ysi")));
        assertThat(set.sourceLanguage()).contains(EN);
        assertThat(texts(set, 1)).containsExactly("Shut", "", "Kiinni");
        assertThat(texts(set, 2)).containsExactly("Full", "", "T\u00e4ysi");
    }

    @Test
    void aTextForAnotherSourceThanTheSetsIsForAnOlderOne() {
        SetReading set = set(
                source(SetFiles.bilingual("en", "en", "a|Open the ramp|")),
                part(SetFiles.bilingual("en", "de", "a|Open|Auf")),
                part(SetFiles.bilingual("en", "fi", "a|Open the ramp|Avaa")));
        assertThat(set.entry(0).texts()).extracting(FileText::older).containsExactly(false, true, false);
    }

    @Test
    void anotherFileInTheSourcesLanguageIsNoTranslation() {
        FileReading same = SetFiles.reading("en", "a=Open");
        FileReading otherwise = SetFiles.reading("en", "a=Opened", "x=Odd");
        SetReading set = set(source(SetFiles.reading("en", "a=Open", "b=Shut")), part(same), part(otherwise));
        assertThat(set.languages()).containsExactly(EN);
        assertThat(set.otherwiseIn(0)).isZero();
        assertThat(set.otherwiseIn(1)).isZero();
        assertThat(set.otherwiseIn(2)).isEqualTo(2);
        assertThat(set.missingIn(1)).isZero();
    }

    private static FileReading shaped(String language, String key, Shape shape, Map<String, String> forms) {
        return SetFiles.of(
                Optional.empty(),
                List.of(language),
                List.of(FileEntry.of(key)
                        .line(4)
                        .shape(shape)
                        .texts(List.of(FileText.of(forms)))
                        .build()));
    }

    @Test
    void theSourceSaysTheShapeAndALanguageOfOneFormMayBePlain() {
        SetReading set = set(
                source(shaped("en", "days", Shape.PLURAL, Map.of("one", "day", "other", "days"))),
                part(shaped("ja", "days", Shape.PLAIN, Map.of("other", "\u65e5"))),
                part(shaped("fi", "days", Shape.STATES, Map.of("0", "p\u00e4iv\u00e4"))));
        assertThat(set.entry(0).shape()).isEqualTo(Shape.PLURAL);
        assertThat(texts(set, 0)).containsExactly("days", "\u65e5", "");
        assertThat(set.problems())
                .singleElement()
                .satisfies(
                        problem -> assertThat(problem.sentence())
                                .isEqualTo(
                                        "other, line 4: the key \u201cdays\u201d is of the shape states, and of the shape plural in en; its text stays out."));
    }

    @Test
    void statesOfTextsAreKept() {
        FileReading unsure = SetFiles.of(
                Optional.empty(),
                List.of("de"),
                List.of(FileEntry.of("a")
                        .texts(List.of(FileText.plain("Auf").in(FileState.PENCILLED)))
                        .build()));
        assertThat(set(source(SetFiles.reading("en", "a=Open")), part(unsure))
                        .entry(0)
                        .texts()
                        .get(1)
                        .state())
                .contains(FileState.PENCILLED);
    }

    @Test
    void notesOfTheSourcesFileCountAndElseTheFirst() {
        FileReading noted = SetFiles.of(
                Optional.of(EN),
                List.of("en", "fi"),
                List.of(FileEntry.of("a")
                        .note("On the bridge")
                        .plain(List.of("Open", "Avaa"))
                        .build()));
        FileReading bare = SetFiles.bilingual("en", "de", "a|Open|Auf");
        assertThat(set(part(bare), part(noted)).entry(0).note()).isEqualTo("On the bridge");
        assertThat(set(source(bare), part(noted)).entry(0).note()).isEmpty();
        assertThat(set(part(SetFiles.reading("de", "a=Auf"))).has(Field.NOTE)).isFalse();
    }
}
