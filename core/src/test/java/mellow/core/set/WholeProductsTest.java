package mellow.core.set;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import mellow.core.format.EmptyReading;
import mellow.core.format.FileFormat;
import mellow.core.format.FileReading;
import mellow.core.format.ReadOptions;
import mellow.core.format.UnreadableFileException;
import mellow.core.format.registry.Formats;
import mellow.core.language.LanguageTag;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** Whole products as they are dropped, of real sizes, through the real readers: the right tables, source, languages and counts. */
class WholeProductsTest {

    private static final List<String> TAGS = List.of(
            "en", "af", "ar", "bg", "bn", "ca", "cs", "da", "de", "el", "es", "et", "eu", "fa", "fi", "fr", "ga", "gl",
            "he", "hi", "hr", "hu", "id", "is", "it", "ja", "ko", "lt", "lv", "ms", "nb", "nl", "no", "pl", "pt",
            "pt-BR", "ro", "sk", "sl", "sr", "sv", "ta", "te", "th", "tr", "uk", "vi", "zh-CN", "zh-TW");

    /**
     * A product.
     *
     * @param files their contents by path
     * @param tables "name: source path, languages, entries" of every table that should come of it, by name
     * @param apart how many files stand apart
     */
    record Product(String what, Map<String, String> files, List<String> tables, int apart) {
        @Override
        public String toString() {
            return what;
        }
    }

    private static String lines(String tag, int keys, String pattern) {
        StringBuilder lines = new StringBuilder();
        for (int i = 0; i < keys; i++) {
            boolean there = tag.equals("en") || i % 11 != tag.hashCode() % 7;
            lines.append(there ? String.format(pattern, i, tag + " ferry " + i) : "");
        }
        return lines.toString();
    }

    private static Map<String, String> yaml(List<String> tags, int keys) {
        Map<String, String> files = new LinkedHashMap<>();
        tags.forEach(tag -> files.put(
                "config/locales/" + tag + ".yml",
                (tag.equals("no") ? "'no'" : tag) + ":\n  quay:\n" + lines(tag, keys, "    k%d: %s\n")));
        return files;
    }

    private static Map<String, String> catalogues(List<String> tags, int keys) {
        Map<String, String> files = new LinkedHashMap<>();
        files.put(
                "po/hoist.pot", "msgid \"\"\nmsgstr \"\"\n" + lines("en", keys, "\nmsgid \"Hoist %d\"\nmsgstr \"\"\n"));
        tags.forEach(tag -> files.put(
                "po/" + tag.replace('-', '_') + ".po",
                "msgid \"\"\nmsgstr \"Language: " + tag + "\\n\"\n"
                        + lines("en", keys, "\nmsgid \"Hoist %d\"\nmsgstr \"" + tag + " %1$d\"\n")));
        return files;
    }

    private static Map<String, String> bundles(String folder, String name, List<String> tags, int keys) {
        Map<String, String> files = new LinkedHashMap<>();
        files.put(folder + name + ".properties", lines("en", keys, "bundle.%d=%s\n"));
        tags.forEach(tag -> files.put(
                folder + name + "_" + tag.replace('-', '_') + ".properties", lines(tag, keys, "bundle.%d=%s\n")));
        return files;
    }

    private static Map<String, String> resources(List<String> folders, int keys) {
        Map<String, String> files = new LinkedHashMap<>();
        files.put(
                "app/src/main/res/values/strings.xml",
                "<resources>" + lines("en", keys, "<string name=\"s%d\">%s</string>\n") + "</resources>");
        folders.forEach(folder -> files.put(
                "app/src/main/res/values-" + folder + "/strings.xml",
                "<resources>" + lines(folder, keys, "<string name=\"s%d\">%s</string>\n") + "</resources>"));
        return files;
    }

    private static Map<String, String> json(String pattern, List<String> tags, List<String> spaces, int keys) {
        Map<String, String> files = new LinkedHashMap<>();
        for (String space : spaces) {
            tags.forEach(tag -> files.put(
                    pattern.replace("LANG", tag).replace("NS", space),
                    "{" + lines(tag, keys, "\"" + space + ".%d\": \"%s\",\n") + "\"last." + space + "\": \"" + tag
                            + " last\"}"));
        }
        return files;
    }

    private static Map<String, String> xliff(List<String> tags, int keys) {
        Map<String, String> files = new LinkedHashMap<>();
        tags.forEach(tag -> files.put(
                "translations/messages." + tag + ".xlf",
                "<xliff version=\"1.2\"><file source-language=\"en\" target-language=\"" + tag
                        + "\" original=\"x\" datatype=\"plaintext\"><body>"
                        + lines(
                                "en",
                                keys,
                                "<trans-unit id=\"u%d\"><source>%s</source><target>" + tag
                                        + " %1$d</target></trans-unit>")
                        + "</body></file></xliff>"));
        return files;
    }

    private static Map<String, String> all(List<Map<String, String>> parts) {
        Map<String, String> files = new LinkedHashMap<>();
        parts.forEach(files::putAll);
        return files;
    }

    static List<Product> products() {
        List<String> some = TAGS.subList(1, 43);
        Map<String, String> empty = bundles("", "text", TAGS.subList(1, 18), 80);
        empty.put("text_en.properties", "");
        Map<String, String> folders = new LinkedHashMap<>();
        List<String> tables = new ArrayList<>();
        for (int i = 10; i < 30; i++) {
            folders.putAll(bundles("part" + i + "/src/main/resources/", "messages", TAGS.subList(1, 8), 25));
            tables.add("Part" + i + " messages: part" + i + "/src/main/resources/messages.properties, 7, 25");
        }
        List<String> regions = List.of(
                "ar",
                "bg",
                "ca",
                "cs",
                "da",
                "de",
                "el",
                "es",
                "es-rMX",
                "et",
                "fa",
                "fi",
                "fr",
                "hi",
                "hr",
                "hu",
                "in",
                "it",
                "iw",
                "ja",
                "ko",
                "lt",
                "nb",
                "nl",
                "pl",
                "pt-rBR",
                "pt-rPT",
                "ro",
                "b+sr+Latn",
                "sv",
                "tr",
                "uk",
                "zh-rCN");
        Map<String, String> odd = yaml(TAGS.subList(0, 6), 20);
        odd.put("config/locales/pl.json", "{\"k1\": \"pl\"}");
        Map<String, String> letter = bundles("", "message", TAGS.subList(1, 5), 12);
        Map<String, String> other = new LinkedHashMap<>();
        bundles("", "messages", TAGS.subList(1, 5), 12)
                .forEach((path, text) -> other.put(path, text.replace("bundle.", "other.")));
        Map<String, String> three = all(List.of(
                json("game/texts/LANG/NS.json", TAGS.subList(0, 4), List.of("menu", "story"), 30),
                catalogues(TAGS.subList(1, 6), 15),
                resources(List.of("de", "fi"), 10)));
        three.put("game/logo.png", "\u0001\u0002");
        three.put("game/src/Main.java", "class Main {}");
        three.put("game/package.json", "{\"name\": \"game\", \"port\": \"1\"}");
        return List.of(
                new Product(
                        "49 files of YAML", yaml(TAGS, 1_300), List.of("Locales: config/locales/en.yml, 48, 1300"), 0),
                new Product(
                        "42 catalogues and a template",
                        catalogues(some, 200),
                        List.of("Hoist: po/hoist.pot, 42, 200"),
                        0),
                new Product(
                        "19 bundles with a base and an empty one", empty, List.of("Text: text.properties, 18, 80"), 0),
                new Product(
                        "34 resource folders",
                        resources(regions, 120),
                        List.of("Strings: app/src/main/res/values/strings.xml, 33, 120"),
                        0),
                new Product(
                        "JSON by language and namespace",
                        json("l/LANG/NS.json", TAGS.subList(0, 9), List.of("common", "errors"), 40),
                        List.of("Common: l/en/common.json, 8, 41", "Errors: l/en/errors.json, 8, 41"),
                        0),
                new Product(
                        "JSON by namespace and language",
                        json("l/NS/LANG.json", TAGS.subList(0, 9), List.of("common", "errors"), 40),
                        List.of("Common: l/common/en.json, 8, 41", "Errors: l/errors/en.json, 8, 41"),
                        0),
                new Product(
                        "XLIFF with its source file",
                        xliff(TAGS.subList(0, 12), 50),
                        List.of("Messages: translations/messages.en.xlf, 11, 50"),
                        0),
                new Product("20 folders of 8 bundles", folders, tables, 0),
                new Product(
                        "three products with pictures and code",
                        three,
                        List.of(
                                "Hoist: po/hoist.pot, 5, 15",
                                "Menu: game/texts/en/menu.json, 3, 31",
                                "Story: game/texts/en/story.json, 3, 31",
                                "Strings: app/src/main/res/values/strings.xml, 2, 10"),
                        3),
                new Product(
                        "names that differ by one letter",
                        all(List.of(letter, other)),
                        List.of("Message: message.properties, 4, 12", "Messages: messages.properties, 4, 12"),
                        0),
                new Product("one file in another format", odd, List.of("Locales: config/locales/en.yml, 5, 20"), 1));
    }

    @ParameterizedTest
    @MethodSource("products")
    void comesIntoItsTables(Product product) {
        List<FileFacts> facts = new ArrayList<>();
        Map<String, FileReading> readings = new LinkedHashMap<>();
        product.files.forEach((path, text) -> {
            byte[] bytes = text.getBytes(StandardCharsets.UTF_8);
            try {
                FileFormat format = Formats.detect(path, bytes).orElseThrow(() -> Formats.unknown(path));
                FileReading reading = EmptyReading.of(path, format.name(), bytes, ReadOptions.AUTOMATIC)
                        .orElseGet(() -> format.read(path, bytes, ReadOptions.AUTOMATIC));
                readings.put(path, reading);
                facts.add(FileFacts.of(path, format, reading));
            } catch (UnreadableFileException unreadable) {
                facts.add(FileFacts.unreadable(path, ""));
            }
        });
        FileSets.Sorted sorted = FileSets.of(facts, List.of(), (path, table) -> true);
        List<String> tables = sorted.sets().stream()
                .map(set -> {
                    assertThat(set.source().language()).isEqualTo(new LanguageTag("en"));
                    List<SetReading.Part> parts = set.members().stream()
                            .map(member -> new SetReading.Part(
                                    member.path(),
                                    readings.get(member.path()),
                                    set.source().path().orElseThrow().equals(member.path())))
                            .toList();
                    SetReading together = new SetReading(new LanguageTag("en"), parts);
                    return set.name() + ": " + set.source().path().orElseThrow() + ", "
                            + (set.members().size() - 1) + ", " + together.size();
                })
                .sorted()
                .toList();
        assertThat(tables).isEqualTo(product.tables);
        assertThat(sorted.apart()).hasSize(product.apart);
    }
}
