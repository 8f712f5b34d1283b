package mellow.core.format;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Stream;
import mellow.core.format.registry.Formats;
import mellow.core.format.registry.Losses;
import mellow.core.language.LanguageTag;
import mellow.core.text.Shape;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

/** Every format into every other and back: what is lost on the way is what {@link FileFormat#keeps} says, and nothing else. */
class MatrixTest {

    private static final Map<String, String> ENDINGS = Map.of(
            "xliff-1.2", "xlf", "xliff-2", "xliff", "android", "xml", "yaml", "yml", "ledger-json", "ledger.json");

    static Stream<Arguments> formats() {
        return Formats.all().stream()
                .flatMap(format -> WholeRecord.LANGUAGES.stream().map(tag -> Arguments.of(format.name(), tag)));
    }

    static Stream<Arguments> pairs() {
        return Formats.all().stream().flatMap(one -> Formats.all().stream()
                .filter(other -> together(one) == together(other))
                .map(other -> Arguments.of(one.name(), other.name())));
    }

    private static boolean together(FileFormat format) {
        return !Set.of("json", "yaml", "properties", "android").contains(format.name());
    }

    private static FileFormat format(String name) {
        return Formats.named(name).orElseThrow();
    }

    private static EntryList through(FileFormat format, EntryList entries, LanguageTag target) throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        format.write(entries, out);
        StandardRules.check(format.name(), out.toByteArray());
        String name = "t." + ENDINGS.getOrDefault(format.name(), format.name());
        ReadOptions options = ReadOptions.AUTOMATIC.in(target);
        FileReading read =
                format.read(name, out.toByteArray(), together(format) ? options.from(WholeRecord.ENGLISH) : options);
        return FormRows.of(read, WholeRecord.formed(entries));
    }

    /** What a file of the format promises to hold. */
    private static EntryList promised(FileFormat format, EntryList entries) {
        boolean together = together(format);
        int source = entries.sourceLanguage().map(entries.languages()::indexOf).orElse(-1);
        List<FileEntry> kept = new ArrayList<>();
        Set<Aspect> keeps = format.keeps();
        for (int i = 0; i < entries.size(); i++) {
            FileEntry entry = entries.entry(i);
            List<FileText> texts = new ArrayList<>();
            boolean any = false;
            for (int language = 0; language < entries.languages().size(); language++) {
                if (!together && language == source && entries.languages().size() > 1) {
                    continue;
                }
                FileText text = held(
                        format,
                        entry,
                        entries.languages().get(language),
                        language == source,
                        entry.texts().get(language));
                texts.add(text);
                any |= !text.isEmpty() && language != source;
            }
            boolean stays = keeps.contains(Aspect.UNTRANSLATED) || any;
            if (stays) {
                kept.add(FileEntry.of(entry.key())
                        .context(keeps.contains(Aspect.CONTEXT) ? entry.context() : "")
                        .shape(entry.shape())
                        .note(keeps.contains(Aspect.NOTE) ? entry.note() : "")
                        .reference(keeps.contains(Aspect.REFERENCE) ? entry.reference() : "")
                        .section(keeps.contains(Aspect.SECTION) ? entry.section() : "")
                        .maxLength(keeps.contains(Aspect.LIMIT) ? entry.maxLength() : 0)
                        .translatable(entry.translatable() || !keeps.contains(Aspect.NOT_FOR_TRANSLATION))
                        .texts(texts)
                        .build());
            }
        }
        List<LanguageTag> languages = together || entries.languages().size() == 1
                ? entries.languages()
                : List.of(entries.languages().get(1 - source));
        return EntryList.of(together ? entries.sourceLanguage() : Optional.empty(), languages, kept);
    }

    private static FileText held(
            FileFormat format, FileEntry entry, LanguageTag language, boolean source, FileText text) {
        Map<String, String> forms = new TreeMap<>(text.forms());
        if (entry.shape() == Shape.PLURAL) {
            format.forms(language, source).ifPresent(known -> forms.keySet().retainAll(known));
        }
        if (!format.keeps().contains(Aspect.LINE_BREAKS)) {
            forms.replaceAll((form, words) -> words.replace("\r\n", "\n").replace('\r', '\n'));
        }
        boolean pencilled = text.state().equals(Optional.of(FileState.PENCILLED));
        boolean dropped = pencilled && !format.keeps().contains(Aspect.UNSETTLED_TEXT);
        FileText held = dropped ? FileText.NONE : FileText.of(forms);
        return pencilled && format.keeps().contains(Aspect.STATE) && !held.isEmpty()
                ? held.in(FileState.PENCILLED)
                : held;
    }

    /** Everything that counts of an entry, in a form that shows differences. */
    private static Map<EntryId, String> shown(EntryList entries) {
        Map<EntryId, String> shown = new LinkedHashMap<>();
        for (int i = 0; i < entries.size(); i++) {
            FileEntry entry = entries.entry(i);
            List<String> texts = entry.texts().stream()
                    .map(text ->
                            text.forms() + (text.state().equals(Optional.of(FileState.PENCILLED)) ? " pencilled" : ""))
                    .toList();
            shown.put(
                    entry.id(),
                    String.join(
                            " | ",
                            entry.shape().word(),
                            entry.note(),
                            entry.reference(),
                            entry.section(),
                            String.valueOf(entry.maxLength()),
                            String.valueOf(entry.translatable()),
                            String.join(" / ", texts)));
        }
        return shown;
    }

    /** In the same order, but for compiled catalogues, which are sorted. */
    private static void same(Map<EntryId, String> found, Map<EntryId, String> promised, String formats) {
        if (formats.contains("mo")) {
            assertThat(found).containsExactlyInAnyOrderEntriesOf(promised);
        } else {
            assertThat(found).containsExactlyEntriesOf(promised);
        }
    }

    @ParameterizedTest(name = "{0} {1}")
    @MethodSource("formats")
    void aFormatLosesWhatItSays(String name, String tag) throws IOException {
        LanguageTag target = new LanguageTag(tag);
        FileFormat format = format(name);
        EntryList all = Losses.writable(format, new WholeRecord(target).list());
        EntryList read = through(format, all, target);
        same(shown(read), shown(promised(format, all)), name);
    }

    @ParameterizedTest(name = "{0} {1}")
    @MethodSource("pairs")
    void aFormatIntoAnotherAndBackLosesWhatBothSay(String one, String other) throws IOException {
        LanguageTag target = new LanguageTag("pl");
        FileFormat first = format(one);
        FileFormat second = format(other);
        EntryList all = Losses.writable(second, Losses.writable(first, new WholeRecord(target).list()));
        EntryList there = through(second, asRecord(through(first, all, target)), target);
        EntryList back = through(first, asRecord(there), target);
        same(shown(back), shown(promised(first, promised(second, promised(first, all)))), one + other);
    }

    private static EntryList asRecord(EntryList read) {
        List<FileEntry> entries = new ArrayList<>();
        for (int i = 0; i < read.size(); i++) {
            entries.add(read.entry(i));
        }
        return EntryList.of(read.sourceLanguage(), read.languages(), entries);
    }

    @ParameterizedTest(name = "{0} {1}")
    @MethodSource("formats")
    void lossesAreCountedBeforeTheyHappen(String name, String tag) {
        LanguageTag target = new LanguageTag(tag);
        FileFormat format = format(name);
        EntryList all = new WholeRecord(target).list();
        Losses losses = Losses.of(format, all);
        Map<EntryId, String> before = shown(Losses.writable(format, all));
        assertThat(losses.refusedCount()).isEqualTo(all.size() - before.size());
        assertThat(losses.refused()).hasSize(losses.refusedCount());
        assertThat(losses.why().isEmpty()).isEqualTo(losses.refusedCount() == 0);
        Map<Aspect, Integer> expected = Map.of(
                Aspect.CONTEXT, 4,
                Aspect.NOTE, 8,
                Aspect.REFERENCE, 6,
                Aspect.SECTION, 10,
                Aspect.LIMIT, 5,
                Aspect.NOT_FOR_TRANSLATION, 1,
                Aspect.UNTRANSLATED, 4,
                Aspect.LINE_BREAKS, 4,
                Aspect.STATE, 8,
                Aspect.UNSETTLED_TEXT, 8);
        expected.forEach((aspect, count) -> assertThat(losses.counts().getOrDefault(aspect, 0))
                .as(aspect.word())
                .isEqualTo(format.keeps().contains(aspect) ? 0 : count));
        boolean forms = format.forms(target, false)
                .filter(known ->
                        !known.containsAll(all.entry(1).texts().get(1).forms().keySet()))
                .isPresent();
        assertThat(losses.counts().containsKey(Aspect.PLURAL_FORMS)).isEqualTo(forms);
    }
}
