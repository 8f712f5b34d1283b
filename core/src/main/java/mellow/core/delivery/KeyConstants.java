package mellow.core.delivery;

import java.io.IOException;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.function.UnaryOperator;
import org.jspecify.annotations.Nullable;

/**
 * Constants for programs, so that a misspelled key does not compile: each key's name with the key or its number, and its source as a comment. What a comment or a
 * text of the language could not hold is written another way.
 *
 * @param language what they are written in
 * @param prefix goes before every name in C, names the class in Java
 * @param namespace the Java package, empty for none
 */
public record KeyConstants(Language language, String prefix, String namespace) {

    /** What constants are written in. */
    public enum Language {
        JAVA("java"),
        TYPESCRIPT("ts"),
        C("h");

        private final String ending;

        Language(String ending) {
            this.ending = ending;
        }

        /** What its files end with. */
        public String ending() {
            return ending;
        }
    }

    /**
     * A key.
     *
     * @param context tells equal keys apart, empty for none
     * @param source what it says
     * @param number what stands for it, null where the key itself does
     */
    public record Key(String key, String context, String source, @Nullable Integer number) {}

    /**
     * Writes all keys in their order, with LF.
     *
     * @throws UndeliverableException when two keys would have one name
     */
    public void write(List<Key> keys, Writer out) throws IOException {
        List<String> names = names(keys);
        switch (language) {
            case JAVA -> java(keys, names, out);
            case TYPESCRIPT -> typescript(keys, names, out);
            case C -> c(keys, names, out);
        }
        out.flush();
    }

    private List<String> names(List<Key> keys) {
        Map<String, String> taken = new HashMap<>();
        return keys.stream()
                .map(key -> {
                    String words = key.context.isEmpty() ? key.key : key.key + " " + key.context;
                    String name =
                            switch (language) {
                                case JAVA -> Identifiers.upperSnake(words);
                                case TYPESCRIPT -> Identifiers.camelCase(words);
                                case C -> Identifiers.upperSnake(prefix + " " + words);
                            };
                    String other = taken.putIfAbsent(name, words);
                    if (other != null) {
                        throw new UndeliverableException(
                                "same-identifier",
                                "The keys “{key}” and “{other}” would both be called {name}; rename one of them.",
                                Map.of("key", words, "other", other, "name", name));
                    }
                    return name;
                })
                .toList();
    }

    private void java(List<Key> keys, List<String> names, Writer out) throws IOException {
        if (!namespace.isEmpty()) {
            out.write("package " + namespace + ";\n\n");
        }
        String type = Identifiers.camelCase(prefix);
        type = type.substring(0, 1).toUpperCase(Locale.ROOT) + type.substring(1);
        out.write("/** Keys of texts. */\npublic final class " + type + " {\n\n    private " + type + "() {}\n");
        for (int i = 0; i < keys.size(); i++) {
            Key key = keys.get(i);
            // A backslash before a u is read before comments are (JLS §3.3).
            out.write("\n    /** " + comment(key.source).replace("\\", "&#92;").replace("@", "&#64;") + " */\n");
            out.write(
                    key.number == null
                            ? "    public static final String " + names.get(i) + " = "
                                    + quoted(key.key, KeyConstants::javaEscape) + ";\n"
                            : "    public static final int " + names.get(i) + " = " + key.number + ";\n");
        }
        out.write("}\n");
    }

    private void typescript(List<Key> keys, List<String> names, Writer out) throws IOException {
        for (int i = 0; i < keys.size(); i++) {
            Key key = keys.get(i);
            out.write("/** " + comment(key.source) + " */\n");
            out.write("export const " + names.get(i) + " = "
                    + (key.number == null ? quoted(key.key, KeyConstants::javaEscape) : key.number.toString()) + ";\n");
        }
    }

    private void c(List<Key> keys, List<String> names, Writer out) throws IOException {
        String guard = Identifiers.upperSnake(prefix + " keys h");
        out.write("#ifndef " + guard + "\n#define " + guard + "\n\n");
        for (int i = 0; i < keys.size(); i++) {
            Key key = keys.get(i);
            out.write("#define " + names.get(i) + " "
                    + (key.number == null ? quotedForC(key.key) : key.number.toString())
                    + " /* " + comment(key.source).replace("/*", "/ *").replace("\\", "/") + " */\n");
        }
        out.write("\n#endif\n");
    }

    private static String comment(String text) {
        return text.replace("*/", "* /")
                .replaceAll("\\R", " ")
                .replaceAll("\\p{Cntrl}|\\p{Cf}|\\p{Cs}", "")
                .strip();
    }

    private static String quoted(String text, UnaryOperator<String> escape) {
        StringBuilder quoted = new StringBuilder("\"");
        for (int i = 0; i < text.length(); i++) {
            quoted.append(escape.apply(text.substring(i, i + 1)));
        }
        return quoted.append('"').toString();
    }

    private static String javaEscape(String unit) {
        char c = unit.charAt(0);
        return switch (c) {
            case '"' -> "\\\"";
            case '\\' -> "\\\\";
            case '\n' -> "\\n";
            case '\r' -> "\\r";
            case '\t' -> "\\t";
            default -> c < ' ' || c > '~' ? String.format("\\u%04x", (int) c) : unit;
        };
    }

    /** Bytes of UTF-8 in octal, which end by themselves after three digits; question marks could begin a trigraph (C11 §5.2.1.1). */
    private static String quotedForC(String text) {
        StringBuilder quoted = new StringBuilder("\"");
        for (byte b : text.getBytes(StandardCharsets.UTF_8)) {
            int c = b & 0xFF;
            if (c == '"' || c == '\\' || c == '?') {
                quoted.append('\\').append((char) c);
            } else if (c < ' ' || c > '~') {
                quoted.append(String.format("\\%03o", c));
            } else {
                quoted.append((char) c);
            }
        }
        return quoted.append('"').toString();
    }
}
