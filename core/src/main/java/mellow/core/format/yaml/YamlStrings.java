package mellow.core.format.yaml;

import java.util.Locale;
import java.util.Set;
import java.util.regex.Pattern;
import mellow.core.format.tree.Node.Kind;

/** Spells texts as scalars. */
final class YamlStrings {

    /** Words that YAML 1.1 takes for truth values; old readers are common. */
    private static final Set<String> TRUTHS = Set.of("y", "n", "yes", "no", "on", "off");

    private static final Pattern KEY = Pattern.compile("[A-Za-z_][A-Za-z0-9_.-]*");
    /** How a plain scalar begins (YAML 1.2 §7.3.3); what may follow is asked apart. */
    private static final Pattern PLAIN = Pattern.compile("(?s)[^\\s\\-?:,\\[\\]{}#&*!|>'\"%@`=<].*");

    private YamlStrings() {}

    /** A key, in quotes only where it needs them. */
    static String key(String key) {
        boolean plain = KEY.matcher(key).matches()
                && YamlScalars.kind(key) == Kind.TEXT
                && !TRUTHS.contains(key.toLowerCase(Locale.ROOT));
        return plain ? key : doubleQuoted(key, false);
    }

    /** Whether a text can stand without quotes. */
    static boolean isPlain(String text) {
        return PLAIN.matcher(text).matches()
                && isPrintable(text)
                && !text.contains(": ")
                && !text.contains(" #")
                && !text.endsWith(":")
                && !text.endsWith(" ")
                && YamlScalars.kind(text) == Kind.TEXT
                && !TRUTHS.contains(text.toLowerCase(Locale.ROOT))
                && !text.startsWith("---")
                && !text.startsWith("...");
    }

    /** A text in single quotes, which can spell everything but breaks and control characters. */
    static String singleQuoted(String text) {
        return "'" + text.replace("'", "''") + "'";
    }

    /** Whether single quotes will do. */
    static boolean isPrintable(String text) {
        return text.codePoints().allMatch(YamlStrings::printable);
    }

    private static boolean printable(int c) {
        return c >= 0x20
                && !(c >= 0x7F && c <= 0xA0)
                && c != 0x2028
                && c != 0x2029
                && c != 0xFEFF
                && c != 0xFFFE
                && c != 0xFFFF
                && !(c >= 0xD800 && c <= 0xDFFF);
    }

    /**
     * A text in double quotes.
     *
     * @param ascii whether everything else is escaped
     */
    static String doubleQuoted(String text, boolean ascii) {
        StringBuilder quoted = new StringBuilder("\"");
        text.codePoints().forEach(c -> {
            switch (c) {
                case '"' -> quoted.append("\\\"");
                case '\\' -> quoted.append("\\\\");
                case '\n' -> quoted.append("\\n");
                case '\t' -> quoted.append("\\t");
                case '\r' -> quoted.append("\\r");
                case 0 -> quoted.append("\\0");
                default -> {
                    if (printable(c) && (!ascii || c < 0x7F)) {
                        quoted.appendCodePoint(c);
                    } else if (c <= 0xFF) {
                        quoted.append(String.format("\\x%02X", c));
                    } else if (c <= 0xFFFF) {
                        quoted.append(String.format("\\u%04X", c));
                    } else {
                        quoted.append(String.format("\\U%08X", c));
                    }
                }
            }
        });
        return quoted.append('"').toString();
    }
}
