package mellow.core.format;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Stream;
import mellow.core.format.registry.Formats;
import mellow.core.language.LanguageTag;
import mellow.core.text.Shape;
import org.junit.jupiter.api.Assertions;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;

/** What holds for every format whatever the texts are. */
class FormatPropertiesTest {

    private static final LanguageTag ENGLISH = new LanguageTag("en");
    private static final LanguageTag POLISH = new LanguageTag("pl");
    private static final List<String> SHEETS = List.of("csv", "xlsx", "ods", "tmx", "tbx", "ledger-json");
    private static final List<String> FRESH_ONLY = List.of("tmx", "tbx", "ledger-json");
    private static final List<String> BILINGUAL = List.of("po", "xliff-1.2", "xliff-2");
    private static final Map<String, String> NAMES = Map.ofEntries(
            Map.entry("po", "t.po"),
            Map.entry("xliff-1.2", "t.xlf"),
            Map.entry("xliff-2", "t.xliff"),
            Map.entry("json", "t.json"),
            Map.entry("yaml", "t.yml"),
            Map.entry("properties", "t.properties"),
            Map.entry("android", "strings.xml"),
            Map.entry("csv", "t.csv"),
            Map.entry("xlsx", "t.xlsx"),
            Map.entry("ods", "t.ods"),
            Map.entry("tmx", "t.tmx"),
            Map.entry("tbx", "t.tbx"),
            Map.entry("ledger-json", "t.ledger.json"));

    private static final String[] PIECES = {
        "a", "Ramp", " ", "  ", "\n", "\t", "\"", "'", "\\", "\\n", "<b>", "</b>", "&", "&amp;", "<", ">", "]]>", "%s",
                "{0}", "#", ": ", "- ", "@", "?",
        "=", "!", "|", "é", "日本", "مرحبا", "😀", "\u00A0", "\u200F", "\u2028", "`", "~", "*", "%", "$", ",", ";", "[",
                "]", "{", "}", "null", "true", "12",
        "…", "--", "\u0301", "\\u00e9", "_", "^", "<x id=\"1\"/>", "<g id=\"1\">", "</g>", "<pc id='2'>", "</pc>",
                "<ph id=\"1\">%s</ph>", "<ph id=\"d\" dataRef=\"d1\"/>", "<bpt i=\"1\">b</bpt>", "<ept i=\"1\">e</ept>",
                "<bpt id=\"3\">", "<it pos=\"begin\">i</it>", "<sc id=\"4\"/>", "<ec startRef=\"4\"/>", "<hi>", "</hi>",
                "<x/>", "\r", "\r\n"
    };

    static Stream<Arguments> inPlaceRounds() {
        return rounds().filter(round -> !FRESH_ONLY.contains((String) round.get()[0]));
    }

    static Stream<Arguments> rounds() {
        return NAMES.keySet().stream().sorted().flatMap(format -> Stream.of(1L, 2L, 3L, 4L, 5L, 6L)
                .map(seed -> Arguments.of(format, seed)));
    }

    /** What a file holds of a text: CSV reads every line break as LF. */
    private static EntryList held(String format, EntryList record) {
        if (!format.equals("csv")) {
            return record;
        }
        List<FileEntry> held = new ArrayList<>();
        for (int i = 0; i < record.size(); i++) {
            FileEntry entry = record.entry(i);
            held.add(entry.with(entry.texts().stream()
                    .map(text -> FileText.of(broken(text.forms())))
                    .toList()));
        }
        return EntryList.of(record.sourceLanguage(), record.languages(), held);
    }

    private static Map<String, String> broken(Map<String, String> forms) {
        Map<String, String> broken = new TreeMap<>(forms);
        broken.replaceAll((form, text) -> text.replace("\r\n", "\n").replace('\r', '\n'));
        return broken;
    }

    private static String text(Random random) {
        StringBuilder text = new StringBuilder();
        for (int i = random.nextInt(6); i >= 0; i--) {
            text.append(PIECES[random.nextInt(PIECES.length)]);
        }
        return text.toString();
    }

    private static Map<String, String> forms(Shape shape, LanguageTag language, Random random) {
        Map<String, String> forms = new TreeMap<>();
        switch (shape) {
            case PLURAL ->
                (language.equals(POLISH) ? List.of("one", "few", "many") : List.of("one", "other"))
                        .forEach(form -> forms.put(form, text(random) + "x"));
            case STATES -> {
                for (int i = random.nextInt(4) + 1; i >= 0; i--) {
                    forms.put(Integer.toString(i), text(random) + "x");
                }
            }
            default -> forms.put("other", text(random) + "x");
        }
        return forms;
    }

    /** Entries with all that the format can carry. */
    private static EntryList record(String format, Random random) {
        boolean bilingual = BILINGUAL.contains(format);
        List<LanguageTag> languages = bilingual || SHEETS.contains(format) ? List.of(ENGLISH, POLISH) : List.of(POLISH);
        List<FileEntry> entries = new ArrayList<>();
        for (int i = 0; i < 60; i++) {
            Shape shape = (SHEETS.contains(format) && !format.equals("ledger-json")) || format.equals("properties")
                    ? Shape.PLAIN
                    : List.of(Shape.PLAIN, Shape.PLAIN, Shape.PLURAL, format.equals("po") ? Shape.PLAIN : Shape.STATES)
                            .get(random.nextInt(4));
            FileEntry.Builder entry = FileEntry.of("key." + i
                            + (random.nextInt(4) == 0 ? text(random).replaceAll("[\\n\\r\\t\\u2028]", "") + "k" : ""))
                    .shape(shape);
            if (bilingual) {
                entry.context(random.nextInt(3) == 0 ? "context " + i : "");
                entry.reference(random.nextInt(3) == 0 ? "deck.scr:" + i : "");
            }
            if (format.startsWith("xliff")) {
                entry.maxLength(random.nextInt(3) * 20)
                        .translatable(random.nextInt(5) > 0)
                        .section(i / 20 == 1 ? "Ramp & door" : "");
            }
            if (!format.equals("json")) {
                entry.note(random.nextInt(4) == 0 ? "Note " + i + ", <x> & y" : "");
            }
            List<FileText> texts = new ArrayList<>();
            for (LanguageTag language : languages) {
                boolean source = language.equals(ENGLISH);
                boolean none = bilingual && !source && random.nextInt(4) == 0;
                FileText text =
                        none ? FileText.NONE.in(FileState.UNTRANSLATED) : FileText.of(forms(shape, language, random));
                if (!none && !source && format.startsWith("xliff")) {
                    text = text.in(List.of(FileState.PENCILLED, FileState.OFFERED, FileState.SETTLED)
                            .get(random.nextInt(3)));
                } else if (!none && !source && format.equals("po") && random.nextBoolean()) {
                    text = text.in(FileState.PENCILLED);
                }
                texts.add(text);
            }
            boolean fuzzy = format.equals("po")
                    && texts.get(1).state().filter(FileState.PENCILLED::equals).isPresent();
            entries.add(entry.texts(texts)
                    .flags(fuzzy ? List.of("fuzzy") : List.of())
                    .build());
        }
        return EntryList.of(languages.size() == 2 ? Optional.of(ENGLISH) : Optional.empty(), languages, entries);
    }

    private static byte[] written(String format, EntryList entries) throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        Formats.named(format).orElseThrow().write(entries, out);
        StandardRules.check(format, out.toByteArray());
        return out.toByteArray();
    }

    private static FileReading read(String format, byte[] bytes) {
        ReadOptions options = BILINGUAL.contains(format) || SHEETS.contains(format)
                ? ReadOptions.AUTOMATIC
                : ReadOptions.AUTOMATIC.in(POLISH);
        assertThat(Formats.detect(NAMES.get(format), bytes).orElseThrow().name())
                .isEqualTo(format);
        return Formats.named(format).orElseThrow().read(NAMES.get(format), bytes, options);
    }

    @ParameterizedTest(name = "{0} {1}")
    @MethodSource("rounds")
    void whatIsWrittenReadsAsTheSame(String format, long seed) throws Exception {
        EntryList written = record(format, new Random(seed));
        byte[] bytes = written(format, written);
        EntryList record = held(format, written);
        FileReading reading = read(format, bytes);
        assertThat(reading.problems()).isEmpty();
        assertThat(reading.size()).isEqualTo(record.size());
        assertThat(reading.languages()).isEqualTo(record.languages());
        for (int i = 0; i < record.size(); i++) {
            assertThat(reading.entry(i))
                    .as(new String(bytes, StandardCharsets.UTF_8))
                    .usingRecursiveComparison()
                    .ignoringFields("line")
                    .isEqualTo(record.entry(i));
        }
    }

    @ParameterizedTest(name = "{0} {1}")
    @MethodSource("inPlaceRounds")
    void editsInPlaceTouchOnlyTheirLines(String format, long seed) throws Exception {
        Random random = new Random(seed);
        byte[] bytes = written(format, record(format, random));
        FileReading before = read(format, bytes);
        assertThat(patched(before.patch())).isEqualTo(bytes);
        FilePatch patch = before.patch();
        int language = before.languages().size() - 1;
        Map<EntryId, Map<String, String>> expected = new HashMap<>();
        int changed = 0;
        for (int i = 0; i < before.size(); i++) {
            FileEntry entry = before.entry(i);
            Map<String, String> forms =
                    new TreeMap<>(entry.texts().get(language).forms());
            if (random.nextInt(4) == 0 && !forms.isEmpty()) {
                forms.replaceAll((form, old) -> text(random).replace("\n", "") + "y");
                patch.set(i, language, FileText.of(forms));
                changed += forms.size();
            }
            expected.put(entry.id(), format.equals("csv") ? broken(forms) : forms);
        }
        Set<Integer> gone = Set.of(3, 4, before.size() - 1);
        boolean lists = format.equals("json") || format.equals("yaml");
        for (int index : gone) {
            expected.remove(before.id(index));
            patch.remove(index);
        }
        FileEntry added = FileEntry.of("a.new.key")
                .texts(before.languages().stream()
                        .map(any -> FileText.plain("New: \"x\" & <y>"))
                        .toList())
                .build();
        patch.insert(7, added);
        patch.insert(-1, FileEntry.of("z.last").texts(added.texts()).build());
        byte[] after = patched(patch);
        StandardRules.check(format, after);
        FileReading again = read(format, after);
        assertThat(again.size())
                .as(new String(after, StandardCharsets.UTF_8))
                .isEqualTo(before.size() - gone.size() + 2);
        for (int i = 0; i < again.size(); i++) {
            FileEntry entry = again.entry(i);
            if (!entry.key().equals("a.new.key") && !entry.key().equals("z.last")) {
                assertThat(entry.texts().get(language).forms()).as(entry.key()).isEqualTo(expected.get(entry.id()));
            } else {
                assertThat(entry.text(language)).isEqualTo("New: \"x\" & <y>");
            }
        }
        List<String> old = new String(bytes, StandardCharsets.UTF_8).lines().toList();
        List<String> kept = new ArrayList<>(
                new String(after, StandardCharsets.UTF_8).lines().toList());
        long missing = old.stream().filter(line -> !kept.remove(line)).count();
        // A removed entry has at most a dozen lines, a changed form one; a list's last comma may move.
        // What is packed has no lines to compare.
        assertThat(format.equals("xlsx") || format.equals("ods") ? 0 : missing)
                .isLessThanOrEqualTo(changed + 12L * gone.size() + (lists ? 2 : 0) + 8L * changed);
    }

    private static byte[] patched(FilePatch patch) throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        patch.writeTo(out);
        return out.toByteArray();
    }

    /** A file without entries either takes one or says that it cannot, and is never made into another document. */
    @ParameterizedTest(name = "{0} {1}")
    @CsvSource(
            delimiter = '|',
            value = {
                "json | {} | yes",
                "android | <resources/> | no",
                "android | <resources></resources> | yes",
                "xliff-1.2 | <xliff version='1.2'><file source-language='en' target-language='pl'><body/></file></xliff> | no",
                "xliff-1.2 | <xliff version='1.2'><file source-language='en' target-language='pl'><body></body></file></xliff> | yes",
                "xliff-2 | <xliff version='2.0' srcLang='en' trgLang='pl'><file id='f'/></xliff> | no",
                "xliff-2 | <xliff version='2.0' srcLang='en' trgLang='pl'><file id='f'></file></xliff> | yes",
                "yaml | {} | no"
            })
    void aFileWithoutEntriesTakesOneOrSaysThatItCannot(String format, String file, String takes) throws Exception {
        FileReading before = read(format, file.getBytes(StandardCharsets.UTF_8));
        assertThat(before.size()).isZero();
        FilePatch patch = before.patch();
        patch.insert(
                -1,
                FileEntry.of("k")
                        .plain(before.languages().stream().map(any -> "x").toList())
                        .build());
        if (takes.equals("no")) {
            assertThatThrownBy(() -> patched(patch))
                    .isInstanceOf(UnwritableTextException.class)
                    .hasMessageContaining("k");
            return;
        }
        FileReading after = read(format, patched(patch));
        assertThat(after.size()).isEqualTo(1);
        assertThat(after.entry(0).key()).isEqualTo("k");
        assertThat(after.entry(0).text(after.languages().size() - 1)).isEqualTo("x");
    }

    /** Broken bytes are read or refused with one sentence: never another exception, never without end. */
    @ParameterizedTest(name = "{0} {1}")
    @MethodSource("rounds")
    void brokenFilesAreReadOrRefused(String format, long seed) throws Exception {
        Random random = new Random(seed);
        byte[] whole = written(format, record(format, random));
        Assertions.assertTimeoutPreemptively(Duration.ofSeconds(60), () -> {
            for (int i = 0; i < 150; i++) {
                byte[] broken = mutated(whole, random);
                try {
                    FileReading reading =
                            Formats.named(format).orElseThrow().read(NAMES.get(format), broken, ReadOptions.AUTOMATIC);
                    for (int entry = 0; entry < reading.size(); entry++) {
                        reading.entry(entry);
                    }
                    if (!FRESH_ONLY.contains(format)) {
                        assertThat(patched(reading.patch())).isEqualTo(broken);
                    }
                } catch (UnreadableFileException refused) {
                    assertThat(refused.problem().found()).isNotBlank();
                }
            }
        });
    }

    private static byte[] mutated(byte[] whole, Random random) {
        byte[] broken = whole.clone();
        for (int i = random.nextInt(4); i >= 0; i--) {
            int at = random.nextInt(broken.length);
            switch (random.nextInt(5)) {
                case 0 -> broken[at] = (byte) random.nextInt(256);
                case 1 -> broken = Arrays.copyOf(broken, Math.max(1, at));
                case 2 -> {
                    int from = random.nextInt(whole.length);
                    int most = Math.min(whole.length - from, broken.length - at);
                    System.arraycopy(whole, from, broken, at, Math.min(random.nextInt(200), most));
                }
                case 3 -> broken[at] = (byte) "<>\"'{}[]\\&#:;\n\r\t -|".charAt(random.nextInt(19));
                default -> {
                    byte[] shorter = new byte[broken.length - 1];
                    System.arraycopy(broken, 0, shorter, 0, at);
                    System.arraycopy(broken, at + 1, shorter, at, shorter.length - at);
                    broken = shorter.length == 0 ? broken : shorter;
                }
            }
        }
        return broken;
    }
}
