package mellow.server.delivery;

import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import javax.lang.model.SourceVersion;
import mellow.core.delivery.FilePattern;
import mellow.core.delivery.KeyConstants;
import mellow.core.format.registry.Formats;
import mellow.server.common.Refusal;
import mellow.server.table.TableInfo;
import org.jspecify.annotations.Nullable;

/**
 * One thing that a product gets.
 *
 * @param id its number, 0 for one that is not kept yet
 * @param active whether it is delivered
 */
record Recipe(long id, String name, RecipeSettings settings, boolean active, int version) {

    private static final Map<String, Set<String>> FORMATS = Map.of(
            "selectors", Set.of("csv", "json"),
            "keys", Set.of("java", "typescript", "c"),
            "assets", Set.of("files"),
            "fonts", Set.of("files", "cut"),
            "wordbook", Set.of("tbx"));
    private static final Set<String> KINDS =
            Stream.concat(Stream.of("texts"), FORMATS.keySet().stream()).collect(Collectors.toUnmodifiableSet());
    private static final Set<String> CHARSETS = Set.of(
            "utf-8",
            "utf-8-bom",
            "utf-16le-bom",
            "iso-8859-1",
            "iso-8859-2",
            "iso-8859-15",
            "windows-1250",
            "windows-1251",
            "windows-1252",
            "windows-1253",
            "windows-1254",
            "windows-1257",
            "shift_jis",
            "gb18030",
            "us-ascii");

    /**
     * What it is.
     *
     * @param kind texts; selectors for the numbers of languages; keys for constants; assets for the files of entries; fonts; wordbook
     * @param format of texts any that can be written; of selectors csv or json; of keys java, typescript or c; of the wordbook tbx; of assets and fonts files; of fonts also cut, down to the letters in use
     * @param files each for a file per language, table for one per table and language, one for a column per language; place for the files that the tables were
     *     taken in from, of format files, with only what changed
     * @param pattern how files are named
     * @param which visible, all or chosen languages
     * @param languages those chosen
     * @param tables names of the tables in addresses, null or empty for all of the product
     * @param texts settled, fresh for settled and not stale, pencilled for these where nothing is settled, offered for the newest offer and else a pencilled text there
     * @param hole what stands where a text is missing: out for no line, empty, borrowed, source or key
     * @param charset of separated text
     * @param delimiter of separated text: comma, semicolon or tab
     * @param guard whether spreadsheet programs are kept from running texts as formulas
     * @param nested whether dots in keys are levels, in JSON and YAML
     * @param ascii whether JSON writes letters beyond ASCII as escapes
     * @param prefix of names in C, the class in Java; of texts what their keys begin with and is left out
     * @param namespace the Java package
     * @param numbers whether keys stand for numbers that are given once
     */
    record RecipeSettings(
            @NotBlank String kind,
            @NotBlank String format,
            @NotBlank String files,
            @NotBlank @Size(max = 300) String pattern,
            @NotBlank String which,
            @NotNull @Size(max = 500) List<@NotBlank String> languages,
            @Nullable @Size(max = 200) List<@NotBlank String> tables,
            @NotBlank String texts,
            @NotBlank String hole,
            @NotBlank String charset,
            @NotBlank String delimiter,
            boolean guard,
            boolean nested,
            boolean ascii,
            @NotNull @Size(max = 60) String prefix,
            @NotNull @Size(max = 120) String namespace,
            boolean numbers) {

        /** Those of the product's tables that it is made of. */
        List<TableInfo> of(List<TableInfo> all) {
            return tables == null || tables.isEmpty()
                    ? all
                    : all.stream().filter(one -> tables.contains(one.slug())).toList();
        }

        boolean ofTexts() {
            return kind.equals("texts");
        }

        /** Whether texts go out that are only offered. */
        boolean offers() {
            return texts.equals("offered");
        }

        char between() {
            return switch (delimiter) {
                case "semicolon" -> ';';
                case "tab" -> '\t';
                default -> ',';
            };
        }

        /** Whether a file has a column for each language. */
        boolean together() {
            return ofTexts() && files.equals("one");
        }

        /** Whether it makes the files that the tables came from. */
        boolean inPlace() {
            return ofTexts() && files.equals("place");
        }

        String ending() {
            if (kind.equals("keys")) {
                return constants().ending();
            }
            return format.equals("csv") && delimiter.equals("tab")
                    ? "tsv"
                    : Formats.named(format).map(one -> one.traits().ending()).orElse(format);
        }

        KeyConstants.Language constants() {
            return switch (format) {
                case "java" -> KeyConstants.Language.JAVA;
                case "c" -> KeyConstants.Language.C;
                default -> KeyConstants.Language.TYPESCRIPT;
            };
        }

        void requireSound() {
            Choices.require("kind", kind, KINDS);
            if (inPlace()) {
                Choices.require("format", format, Set.of("files"));
            } else if (ofTexts()) {
                if (Formats.named(format).isEmpty()) {
                    throw Refusal.unacceptable(
                            "unknown-format",
                            "There is no format “{format}”.",
                            Map.of("field", "format", "format", format));
                }
                if (together() && Formats.named(format).orElseThrow().apart()) {
                    throw Refusal.unacceptable(
                            "one-language-in-a-file",
                            "A file of {format} holds one language; choose a file per language.",
                            Map.of("field", "files", "format", format));
                }
            } else {
                Choices.require("format", format, FORMATS.getOrDefault(kind, Set.of()));
            }
            Choices.require("files", files, Set.of("each", "table", "one", "place"));
            Choices.require("which", which, Set.of("visible", "all", "chosen"));
            Choices.require("texts", texts, Set.of("settled", "fresh", "pencilled", "offered"));
            Choices.require("hole", hole, Set.of("out", "empty", "borrowed", "source", "key"));
            Choices.require("delimiter", delimiter, Set.of("comma", "semicolon", "tab"));
            Choices.require("charset", charset, CHARSETS);
            if (!format.equals("csv") && !charset.equals("utf-8")) {
                throw Refusal.unacceptable(
                        "charset-of-format",
                        "Only separated text is written in another character set.",
                        Map.of("field", "charset"));
            }
            if (kind.equals("assets") && !pattern.contains("{key}") && !pattern.contains("{name}")) {
                throw Refusal.unacceptable(
                        "no-key-in-name",
                        "Files of entries are named after their keys; write {place} into the name.",
                        Map.of("field", "pattern", "place", "{key}"));
            }
            if (inPlace() != pattern.contains("{path}")) {
                throw Refusal.unacceptable(
                        inPlace() ? "no-path-in-name" : "path-of-new-file",
                        inPlace()
                                ? "Files that are written in place keep their paths; write {place} into the name."
                                : "Only files that are written in place have a {place}.",
                        Map.of("field", "pattern", "place", "{path}"));
            }
            if (!namespace.isEmpty() && !SourceVersion.isName(namespace)) {
                throw Refusal.unacceptable(
                        "bad-namespace",
                        "A Java package is written as org.example.words.",
                        Map.of("field", "namespace"));
            }
            for (String place : pattern.split("\\{")) {
                int end = place.indexOf('}');
                if (end >= 0 && !FilePattern.PLACES.contains(place.substring(0, end))) {
                    throw Refusal.unacceptable(
                            "unknown-place",
                            "The name has a place {place}, and there is none of that name.",
                            Map.of("field", "pattern", "place", "{" + place.substring(0, end) + "}"));
                }
            }
        }
    }
}
