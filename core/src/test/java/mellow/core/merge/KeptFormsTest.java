package mellow.core.merge;

import static org.assertj.core.api.Assertions.assertThat;

import com.ibm.icu.text.PluralRules;
import com.ibm.icu.util.ULocale;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Stream;
import mellow.core.cell.Standing;
import mellow.core.check.Ground;
import mellow.core.format.EntryId;
import mellow.core.format.EntryList;
import mellow.core.format.FileEntry;
import mellow.core.format.FileFormat;
import mellow.core.format.FileReading;
import mellow.core.format.FileText;
import mellow.core.format.FormRows;
import mellow.core.format.ReadOptions;
import mellow.core.format.registry.Formats;
import mellow.core.language.LanguageTag;
import mellow.core.text.Shape;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Plural forms that a format has no place for stay what they are in the ledger, whatever else of the text a file changes. */
class KeptFormsTest {

    private static final LanguageTag ENGLISH = new LanguageTag("en");
    private static final EntryId CARS = new EntryId("cars", "");

    /** Every language of four categories and more, in every format of which one file holds a source and it. */
    static Stream<Arguments> languages() {
        List<String> many = Arrays.stream(ULocale.getISOLanguages())
                .filter(tag -> tag.length() == 2)
                .filter(tag ->
                        PluralRules.forLocale(new ULocale(tag)).getKeywords().size() >= 4)
                .filter(tag -> LanguageTag.parse(tag).map(LanguageTag::value).equals(Optional.of(tag)))
                .toList();
        assertThat(many).contains("ru", "pl", "ar", "cy", "sl", "lt", "uk", "cs");
        return Stream.of("po", "mo", "xliff-1.2", "csv", "ledger-json")
                .flatMap(format -> many.stream().map(tag -> Arguments.of(format, tag)));
    }

    private static FileText forms(LanguageTag tag, String suffix) {
        Map<String, String> forms = new TreeMap<>();
        PluralRules.forLocale(ULocale.forLanguageTag(tag.value()))
                .getKeywords()
                .forEach(form -> forms.put(form, form + suffix));
        return FileText.of(forms);
    }

    private static FileReading file(String name, LanguageTag tag, FileText text) throws IOException {
        FileFormat format = Formats.named(name).orElseThrow();
        FileEntry entry = FileEntry.of(CARS.key())
                .shape(Shape.PLURAL)
                .texts(List.of(forms(ENGLISH, " car"), text))
                .build();
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        format.write(EntryList.of(Optional.of(ENGLISH), List.of(ENGLISH, tag), List.of(entry)), out);
        FileReading read = format.read(
                "t",
                out.toByteArray(),
                format.bilingual() || !format.apart()
                        ? ReadOptions.AUTOMATIC.from(ENGLISH).in(tag)
                        : ReadOptions.AUTOMATIC.in(tag));
        return FormRows.of(read, Map.of(CARS, Shape.PLURAL));
    }

    private static List<Change> compare(FileReading now, FileReading before, LanguageTag tag, FileText mine) {
        RecordCell cell =
                new RecordCell(mine, Standing.SETTLED, 1, false, false, new RecordCell.Waiting(0, FileText.NONE));
        RecordEntry entry = new RecordEntry(
                1,
                1,
                CARS,
                new RecordEntry.Source(Shape.PLURAL, forms(ENGLISH, " car"), new Revisions(1, 1), 1),
                new RecordEntry.About("", "", "", 0, 0, true),
                Map.of(tag, cell));
        Terms terms = new Terms(
                ENGLISH,
                Map.of(tag, Arrival.SETTLED),
                new Terms.May(Set.of(), Set.of(), true),
                true,
                Set.of(),
                Choices.NONE,
                language -> Ground.of(ENGLISH, language));
        List<Change> changes = new ArrayList<>();
        Comparison comparison = new Comparison(now, before, terms);
        comparison.compare(entry, changes::add);
        comparison.rest(changes::add);
        return changes;
    }

    @ParameterizedTest(name = "{0} {1}")
    @MethodSource("languages")
    void whatAFileCannotHoldStays(String format, String language) throws IOException {
        LanguageTag tag = new LanguageTag(language);
        FileText mine = forms(tag, " v");
        FileReading before = file(format, tag, mine);
        assertThat(compare(before, before, tag, mine)).as("again").isEmpty();
        assertThat(compare(before, null, tag, mine))
                .as("our own export, the first time")
                .isEmpty();
        String held = before.entry(0)
                .texts()
                .get(before.languages().indexOf(tag))
                .forms()
                .firstKey();
        Map<String, String> changed = new TreeMap<>(mine.forms());
        changed.put(held, "new");
        List<Change> changes = compare(file(format, tag, FileText.of(changed)), before, tag, mine);
        assertThat(changes).hasSize(1);
        assertThat(changes.get(0).kind()).isEqualTo(ChangeKind.TEXTS_REPLACED);
        assertThat(changes.get(0).after().forms()).isEqualTo(changed);
        Map<String, String> here = new TreeMap<>(mine.forms());
        here.put(held, "ours");
        List<Change> conflict = compare(file(format, tag, FileText.of(changed)), before, tag, FileText.of(here));
        assertThat(conflict).extracting(Change::kind).containsExactly(ChangeKind.CONFLICTS);
        assertThat(conflict.get(0).after().forms())
                .as("the offer has all forms")
                .isEqualTo(changed);
    }

    /** A file may hold forms that its makers never wrote, such as XLIFF or JSON of a language that they took for English. */
    @ParameterizedTest
    @ValueSource(strings = {"xliff-1.2", "xliff-2", "json", "yaml", "ledger-json"})
    void formsThatAFileNeverHadStay(String format) throws IOException {
        LanguageTag tag = new LanguageTag("pl");
        FileText mine = forms(tag, " v");
        FileText two = FileText.of(Map.of("one", "one v", "other", "other v"));
        FileReading before = file(format, tag, two);
        assertThat(compare(before, before, tag, mine)).isEmpty();
        FileText changed = FileText.of(Map.of("one", "new", "other", "other v"));
        List<Change> changes = compare(file(format, tag, changed), before, tag, mine);
        assertThat(changes).extracting(Change::kind).containsExactly(ChangeKind.TEXTS_REPLACED);
        Map<String, String> all = new TreeMap<>(mine.forms());
        all.put("one", "new");
        assertThat(changes.get(0).after().forms()).isEqualTo(all);
        // What it had and has no more, it says.
        FileText less = FileText.of(Map.of("other", "other v"));
        List<Change> gone = compare(file(format, tag, less), file(format, tag, mine), tag, mine);
        assertThat(gone.get(0).after().forms()).isEqualTo(less.forms());
    }
}
