package mellow.core.format.xml;

import java.util.List;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * The outermost element of a document as its beginning shows it, for telling formats apart. Declarations, comments, instructions and a document type stand
 * before it (XML 1.0 §2.1).
 *
 * @param name its name without a prefix
 * @param tag its start tag as far as it is there
 */
public record XmlRoot(String name, String tag) {

    private static final Pattern START = Pattern.compile("<(?:[\\w.-]+:)?([A-Za-z_][\\w.-]*)");

    /** The root of a document that begins with {@code text}; empty when it is none, or when what stands before the root is longer. */
    public static Optional<XmlRoot> of(String text) {
        int at = 0;
        while (true) {
            while (at < text.length() && Character.isWhitespace(text.charAt(at))) {
                at++;
            }
            int end;
            if (text.startsWith("<!--", at)) {
                end = after(text, "-->", at + 4);
            } else if (text.startsWith("<?", at)) {
                end = after(text, "?>", at);
            } else if (text.startsWith("<!", at)) {
                int open = text.indexOf('[', at);
                int close = text.indexOf('>', at);
                end = open >= 0 && open < close ? after(text, ">", Math.max(open, text.indexOf(']', open))) : close + 1;
            } else {
                break;
            }
            if (end <= at) {
                return Optional.empty();
            }
            at = end;
        }
        Matcher start = START.matcher(text);
        if (!start.find(at) || start.start() != at) {
            return Optional.empty();
        }
        int close = text.indexOf('>', at);
        return Optional.of(new XmlRoot(start.group(1), text.substring(at, close < 0 ? text.length() : close)));
    }

    /** Whether a document that begins with {@code text} has an outermost element of one of those names. */
    public static boolean named(String text, String... names) {
        return of(text).filter(root -> List.of(names).contains(root.name())).isPresent();
    }

    private static int after(String text, String end, int from) {
        int found = text.indexOf(end, from);
        return found < 0 ? -1 : found + end.length();
    }
}
