package mellow.e2e;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;

/** Makes the files of whole products: the same keys in many languages, in the habits of several kinds of programs. */
final class LanguageFiles {

    /** Forty-nine languages; "no" has to be in quotes in YAML. */
    static final List<String> FORTY_NINE = List.of(
            "en", "af", "ar", "bg", "bn", "ca", "cs", "da", "de", "el", "es", "et", "eu", "fa", "fi", "fr", "ga", "gl",
            "he", "hi", "hr", "hu", "id", "is", "it", "ja", "ko", "lt", "lv", "ms", "nb", "nl", "no", "pl", "pt",
            "pt-BR", "ro", "sk", "sl", "sr", "sv", "ta", "te", "th", "tr", "uk", "vi", "zh-CN", "zh-TW");

    /** In a language other than English and German every so many keys are missing. */
    private static final int MISSING_EACH = 9;

    private LanguageFiles() {}

    /** Whether {@code tag} has a text for key {@code i}. */
    static boolean has(String tag, int i) {
        return tag.equals("en") || tag.equals("de") || (i + tag.hashCode()) % MISSING_EACH != 0;
    }

    /** Files of YAML with the language at the root, keys nested two deep. */
    static Map<String, String> yaml(List<String> tags, int keys) {
        Map<String, String> files = new LinkedHashMap<>();
        for (String tag : tags) {
            StringBuilder file = new StringBuilder("# " + tag + "\n");
            file.append(tag.equals("no") ? "'no'" : tag).append(":\n");
            for (int i = 0; i < keys; i++) {
                if (i % 50 == 0) {
                    file.append("  quay").append(i / 50).append(":\n");
                }
                if (has(tag, i)) {
                    file.append("    k").append(i).append(": \"").append(tag).append(" sailing %{n} of ");
                    file.append(i).append("\"\n");
                }
            }
            files.put("locales/" + tag + ".yml", file.toString());
        }
        return files;
    }

    /** Catalogues of programs that speak English, with their template. */
    static Map<String, String> catalogues(List<String> tags, int keys) {
        Map<String, String> files = new LinkedHashMap<>();
        files.put("po/winch.pot", catalogue("", keys));
        tags.forEach(tag -> files.put("po/" + tag.replace('-', '_') + ".po", catalogue(tag, keys)));
        return files;
    }

    private static String catalogue(String tag, int keys) {
        StringBuilder file = new StringBuilder("msgid \"\"\nmsgstr \"\"\n\"Language: " + tag.replace('-', '_')
                + "\\n\"\n\"Content-Type: text/plain; charset=UTF-8\\n\"\n");
        for (int i = 0; i < keys; i++) {
            String text = tag.isEmpty() || !has(tag, i) ? "" : tag + " winch " + i;
            file.append("\n#: winch.c:").append(i).append("\nmsgid \"Winch ").append(i);
            file.append("\"\nmsgstr \"").append(text).append("\"\n");
        }
        return file.toString();
    }

    /** Bundles of Java with a base without a language, and an empty one in the base's. */
    static Map<String, String> bundles(List<String> tags, int keys) {
        Map<String, String> files = new LinkedHashMap<>();
        files.put("bundles/deck.properties", bundle("en", keys));
        files.put("bundles/deck_en.properties", "");
        tags.forEach(tag -> files.put("bundles/deck_" + tag.replace('-', '_') + ".properties", bundle(tag, keys)));
        return files;
    }

    private static String bundle(String tag, int keys) {
        StringBuilder file = new StringBuilder("# Deck\n\n");
        for (int i = 0; i < keys; i++) {
            file.append(has(tag, i) ? "deck." + i + " = " + tag + " deck " + i + "\n" : "");
        }
        return file.toString();
    }

    /** Resource folders as telephones have them. */
    static Map<String, String> resources(List<String> folders, int keys) {
        Map<String, String> files = new LinkedHashMap<>();
        files.put("app/res/values/strings.xml", resource("en", keys));
        folders.forEach(folder -> files.put("app/res/values-" + folder + "/strings.xml", resource(folder, keys)));
        return files;
    }

    private static String resource(String tag, int keys) {
        StringBuilder file = new StringBuilder("<resources>\n");
        for (int i = 0; i < keys; i++) {
            file.append(has(tag, i) ? "    <string name=\"ramp_" + i + "\">" + tag + " ramp " + i + "</string>\n" : "");
        }
        return file.append("</resources>\n").toString();
    }

    /** Writes files below a folder. */
    static List<Path> write(Path folder, Map<String, String> files) throws IOException {
        for (Map.Entry<String, String> file : files.entrySet()) {
            Path path = folder.resolve(file.getKey());
            Files.createDirectories(path.getParent());
            Files.writeString(path, file.getValue());
        }
        return files.keySet().stream().map(folder::resolve).toList();
    }

    /** Packs files into an archive. */
    static Path zip(Path archive, Map<String, String> files) throws IOException {
        try (ZipOutputStream zip = new ZipOutputStream(Files.newOutputStream(archive))) {
            for (Map.Entry<String, String> file : files.entrySet()) {
                zip.putNextEntry(new ZipEntry(file.getKey()));
                zip.write(file.getValue().getBytes(StandardCharsets.UTF_8));
                zip.closeEntry();
            }
        }
        return archive;
    }
}
