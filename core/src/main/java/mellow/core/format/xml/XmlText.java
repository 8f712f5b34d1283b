package mellow.core.format.xml;

import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.Locale;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import mellow.core.format.Limits;
import mellow.core.format.Position;
import mellow.core.format.Problems;
import mellow.core.format.source.SourceText;

/** What XML 1.0 says about characters: which may stand in a file, how they are escaped, and which character set a file declares. */
public final class XmlText {

    private static final Pattern DECLARATION =
            Pattern.compile("^<\\?xml[^>]{0,200}?encoding\\s*=\\s*[\"']([A-Za-z][A-Za-z0-9._-]*)[\"']");
    private static final int DECLARATION_LENGTH = 300;

    private XmlText() {}

    /**
     * Decodes a file (XML 1.0 §4.3.3 and appendix F): a byte-order mark counts first, then the declaration, then UTF-8.
     *
     * @param known the character set when somebody chose it
     * @throws mellow.core.format.UnreadableFileException when it is too large, empty, of an unknown set, or has bytes that are no characters
     */
    public static SourceText decode(byte[] bytes, Optional<Charset> known, Limits limits, Problems problems) {
        SourceText.checkSize(bytes, limits, problems, "an XML file");
        Charset charset = known.orElseGet(() -> {
            Charset marked = SourceText.charsetOf(bytes, StandardCharsets.ISO_8859_1);
            return marked.equals(StandardCharsets.ISO_8859_1) ? declared(bytes, problems) : marked;
        });
        return SourceText.decode(bytes, charset, problems);
    }

    private static Charset declared(byte[] bytes, Problems problems) {
        String head = new String(bytes, 0, Math.min(bytes.length, DECLARATION_LENGTH), StandardCharsets.ISO_8859_1);
        Matcher found = DECLARATION.matcher(head);
        if (!found.find() || found.group(1).toUpperCase(Locale.ROOT).startsWith("UTF-16")) {
            return StandardCharsets.UTF_8;
        }
        try {
            return Charset.forName(found.group(1));
        } catch (IllegalArgumentException unknown) {
            throw problems.refuse(
                    new Position(1, found.start(1) + 1, found.start(1)),
                    "the character set “" + found.group(1) + "” is not known",
                    "UTF-8 or another character set by its registered name");
        }
    }

    /** Whether XML 1.0 §2.2 allows the character at all. */
    public static boolean allowed(int c) {
        return c >= 0x20
                ? c <= 0xD7FF || (c >= 0xE000 && c <= 0xFFFD) || c >= 0x10000
                : c == '\t' || c == '\n' || c == '\r';
    }

    /** The first character that XML cannot hold, as U+hex. */
    public static Optional<String> unwritable(String text) {
        return text.codePoints()
                .filter(c -> !allowed(c))
                .mapToObj(c -> String.format("U+%04X", c))
                .findFirst();
    }

    /** Text as the content of an element; a carriage return is written as a reference, or reading would take it for a line end. */
    public static String escape(String text) {
        StringBuilder escaped = new StringBuilder(text.length() + 16);
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            switch (c) {
                case '&' -> escaped.append("&amp;");
                case '<' -> escaped.append("&lt;");
                case '>' -> escaped.append(i >= 2 && text.startsWith("]]", i - 2) ? "&gt;" : ">");
                case '\r' -> escaped.append("&#13;");
                default -> escaped.append(c);
            }
        }
        return escaped.toString();
    }

    /** Text as the value of an attribute in double quotes. */
    public static String escapeAttribute(String text) {
        StringBuilder escaped = new StringBuilder(text.length() + 16);
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            switch (c) {
                case '&' -> escaped.append("&amp;");
                case '<' -> escaped.append("&lt;");
                case '"' -> escaped.append("&quot;");
                case '\n' -> escaped.append("&#10;");
                case '\r' -> escaped.append("&#13;");
                case '\t' -> escaped.append("&#9;");
                default -> escaped.append(c);
            }
        }
        return escaped.toString();
    }
}
