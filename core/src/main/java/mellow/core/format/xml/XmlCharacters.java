package mellow.core.format.xml;

import java.util.Map;
import mellow.core.format.UnreadableFileException;
import mellow.core.format.source.SourceText;

/** The characters of texts and attributes: references replaced, line ends normalised, everything checked that XML 1.0 wants of them. */
final class XmlCharacters {

    private static final Map<String, String> ENTITIES =
            Map.of("amp", "&", "lt", "<", "gt", ">", "apos", "'", "quot", "\"");

    private final SourceText source;
    private final String text;
    private final int longest;

    XmlCharacters(SourceText source, int longest) {
        this.source = source;
        this.text = source.text();
        this.longest = longest;
    }

    UnreadableFileException tooLong(int start) {
        return source.refuse(
                start,
                "a text of more than " + longest + " characters",
                "shorter texts; this is the limit for one text");
    }

    void checkLength(int start, int end) {
        if (end - start > longest) {
            throw tooLong(start);
        }
    }

    /** Replaces references and normalises white space (XML 1.0 §2.11, §3.3.3, §4.4). */
    String decode(int start, int end, boolean attribute) {
        checkLength(start, end);
        StringBuilder decoded = null;
        for (int i = start; i < end; ) {
            char c = text.charAt(i);
            checkCharacter(i);
            boolean plain = c != '&' && c != '\r' && !(attribute && (c == '\n' || c == '\t'));
            if (c == '>' && !attribute && i - 2 >= start && text.startsWith("]]", i - 2)) {
                throw source.refuse(i - 2, "“]]>” in a text", "“]]&gt;”");
            }
            if (plain) {
                if (decoded != null) {
                    decoded.append(c);
                }
                i++;
                continue;
            }
            if (decoded == null) {
                decoded = new StringBuilder(end - start).append(text, start, i);
            }
            if (c == '&') {
                i = reference(i, end, decoded);
            } else if (c == '\r') {
                decoded.append(attribute ? ' ' : '\n');
                i += i + 1 < end && text.charAt(i + 1) == '\n' ? 2 : 1;
            } else {
                decoded.append(' ');
                i++;
            }
        }
        return decoded == null ? text.substring(start, end) : decoded.toString();
    }

    private int reference(int start, int end, StringBuilder to) {
        int semicolon = text.indexOf(';', start);
        if (semicolon < 0 || semicolon >= end || semicolon - start > 64) {
            throw source.refuse(start, "“&” that begins no reference", "“&amp;” for the character itself");
        }
        String name = text.substring(start + 1, semicolon);
        if (name.startsWith("#")) {
            int code = number(name);
            if (code < 0 || !XmlText.allowed(code)) {
                throw source.refuse(start, "“&" + name + ";”, which is no character that XML allows", "a character");
            }
            to.appendCodePoint(code);
        } else {
            String known = ENTITIES.get(name);
            if (known == null) {
                throw source.refuse(
                        start,
                        "the unknown entity “&" + name + ";”",
                        "the character itself, or one of &amp; &lt; &gt; &apos; &quot;");
            }
            to.append(known);
        }
        return semicolon + 1;
    }

    private static int number(String name) {
        try {
            boolean hex = name.startsWith("#x");
            int code = Integer.parseInt(name.substring(hex ? 2 : 1), hex ? 16 : 10);
            return Character.isValidCodePoint(code) && name.charAt(hex ? 2 : 1) != '+' ? code : -1;
        } catch (NumberFormatException noNumber) {
            return -1;
        }
    }

    void checkCharacter(int i) {
        char c = text.charAt(i);
        if ((c < 0x20 && c != '\t' && c != '\n' && c != '\r') || c >= 0xFFFE) {
            throw source.refuse(
                    i, String.format("the control character U+%04X", (int) c), "a character that XML allows");
        }
    }

    static String lineEnds(String text) {
        return text.indexOf('\r') < 0 ? text : text.replace("\r\n", "\n").replace('\r', '\n');
    }
}
