package mellow.core.check;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;

/**
 * A tag of HTML, XML or a format's inline code, as it stands in a text.
 *
 * @param name in lower case
 * @param closing whether it is {@code </name>}
 * @param single whether nothing closes it: {@code <br>}, {@code <x/>}
 * @param attributes those whose values people do not read
 * @param translatable whether it has attributes that people read
 */
record Tag(
        String spelled,
        String name,
        boolean closing,
        boolean single,
        Map<String, String> attributes,
        boolean translatable,
        int start,
        int end) {

    private static final Set<String> VOID = Set.of(
            "br", "hr", "img", "input", "wbr", "area", "base", "col", "embed", "link", "meta", "source", "track", "bx",
            "ex");
    /** Elements of HTML, Android and XLIFF that stand in texts; other names in angle brackets are words, such as {@code <file>} in a usage line. */
    private static final Set<String> KNOWN = Set.of(
            "a",
            "abbr",
            "acronym",
            "annotation",
            "article",
            "aside",
            "b",
            "bdi",
            "bdo",
            "big",
            "blink",
            "blockquote",
            "body",
            "br",
            "button",
            "caption",
            "center",
            "cite",
            "code",
            "dd",
            "del",
            "details",
            "dfn",
            "div",
            "dl",
            "dt",
            "em",
            "figure",
            "font",
            "footer",
            "form",
            "h1",
            "h2",
            "h3",
            "h4",
            "h5",
            "h6",
            "head",
            "header",
            "hr",
            "html",
            "i",
            "iframe",
            "img",
            "input",
            "ins",
            "kbd",
            "label",
            "li",
            "mark",
            "marquee",
            "nav",
            "ol",
            "option",
            "p",
            "pre",
            "q",
            "s",
            "samp",
            "script",
            "section",
            "select",
            "small",
            "span",
            "strike",
            "strong",
            "style",
            "sub",
            "sup",
            "table",
            "tbody",
            "td",
            "th",
            "thead",
            "tr",
            "tt",
            "u",
            "ul",
            "var",
            "wbr",
            "x",
            "g",
            "ph",
            "pc",
            "bx",
            "ex",
            "bpt",
            "ept",
            "it",
            "mrk",
            "sm",
            "sc",
            "ec",
            "cp");

    /** Elements whose names stand in usage lines too: {@code <option>}, {@code <head>}. */
    private static final Set<String> WORDS = Set.of(
            "article", "body", "button", "caption", "code", "details", "figure", "footer", "form", "head", "header",
            "label", "mark", "option", "script", "section", "select", "style", "summary", "table", "title", "var", "x",
            "g", "q", "s");

    private static final Set<String> BARE_ATTRIBUTES = Set.of(
            "checked",
            "disabled",
            "hidden",
            "selected",
            "required",
            "readonly",
            "download",
            "open",
            "controls",
            "autoplay",
            "loop",
            "muted",
            "nowrap",
            "noshade",
            "multiple",
            "async",
            "defer");
    private static final int LONGEST_NAME = 60;

    private static final Set<String> READ =
            Set.of("title", "alt", "placeholder", "aria-label", "content", "label", "summary");
    /** Looked at as links, since a language may have pages of its own. */
    private static final Set<String> LINKS = Set.of("href", "src", "action", "cite");

    /** What makes two tags the same wherever they stand. */
    String identity() {
        String id = attributes.getOrDefault("id", "");
        return (closing ? "/" : "") + name + (id.isEmpty() ? "" : " " + id) + (single && !closing ? "/" : "");
    }

    /** XLIFF 2 §4.7.2: a code says whether a translation may do without it. */
    boolean mayBeDropped() {
        return "yes".equals(attributes.get("candelete"));
    }

    boolean mayBeCloned(boolean inSource) {
        return inSource && "yes".equals(attributes.get("cancopy"));
    }

    /** The tags in {@code text}; a name that is no known element is one only where {@code source} closes it or writes it as an element. */
    static List<Tag> in(String text, String source) {
        List<Tag> tags = new ArrayList<>();
        Set<String> closed = closed(source);
        int at = text.indexOf('<');
        while (at >= 0) {
            int end = endOf(text, at);
            Tag tag = end < 0 ? null : read(text, at, end);
            if (tag != null && element(tag, closed)) {
                tags.add(tag);
                at = text.indexOf('<', end);
            } else {
                at = text.indexOf('<', at + 1);
            }
        }
        return tags;
    }

    /** A name that is also a word is an element only where the source closes it, or where it has attributes; an unknown one where it is closed or single. */
    private static boolean element(Tag tag, Set<String> closed) {
        return tag.spelled.endsWith("/>")
                || closed.contains(tag.name)
                || (KNOWN.contains(tag.name)
                        && (!WORDS.contains(tag.name) || !tag.attributes.isEmpty() || VOID.contains(tag.name)));
    }

    /** The names that a text closes, in lower case. */
    private static Set<String> closed(String text) {
        Set<String> closed = new HashSet<>();
        for (int at = text.indexOf("</"); at >= 0; at = text.indexOf("</", at + 2)) {
            int end = text.indexOf('>', at);
            if (end > 0 && end - at < LONGEST_NAME) {
                closed.add(text.substring(at + 2, end).strip().toLowerCase(Locale.ROOT));
            }
        }
        return closed;
    }

    /** After the bracket that ends the tag; -1 where another begins before, or none ends it. */
    private static int endOf(String text, int start) {
        char quote = 0;
        for (int at = start + 1; at < text.length(); at++) {
            char c = text.charAt(at);
            if (quote != 0) {
                quote = c == quote ? 0 : quote;
            } else if ((c == '"' || c == '\'') && text.charAt(at - 1) == '=') {
                quote = c;
            } else if (c == '>') {
                return at + 1;
            } else if (c == '<') {
                return -1;
            }
        }
        return -1;
    }

    private static @Nullable Tag read(String text, int start, int end) {
        int at = start + 1;
        boolean closing = at < end && text.charAt(at) == '/';
        if (closing) {
            at++;
        }
        int nameEnd = at;
        while (nameEnd < end
                && (Character.isLetterOrDigit(text.charAt(nameEnd)) || ":_-.".indexOf(text.charAt(nameEnd)) >= 0)) {
            nameEnd++;
        }
        if (nameEnd == at || (!letterOrDigit(text.charAt(at)))) {
            return null;
        }
        char after = text.charAt(nameEnd);
        if (after != '>' && after != '/' && !Character.isWhitespace(after)) {
            return null;
        }
        String name = text.substring(at, nameEnd).toLowerCase(Locale.ROOT);
        boolean selfClosing = text.charAt(end - 2) == '/';
        if (after == '/' && nameEnd != end - 2) {
            // An address in brackets.
            return null;
        }
        Map<String, String> attributes = new TreeMap<>();
        boolean[] translatable = {false};
        String inside = text.substring(nameEnd, end - (selfClosing ? 2 : 1));
        if (words(inside)) {
            return null;
        }
        attributes(inside, attributes, translatable);
        return new Tag(
                text.substring(start, end),
                name,
                closing,
                selfClosing || VOID.contains(name),
                attributes,
                translatable[0],
                start,
                end);
    }

    private static boolean letterOrDigit(char c) {
        return (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z') || (c >= '0' && c <= '9');
    }

    /** Whether it is words and no attributes: {@code <code de fonction>}. */
    private static boolean words(String inside) {
        return inside.indexOf('=') < 0
                && !inside.isBlank()
                && !BARE_ATTRIBUTES.contains(inside.strip().toLowerCase(Locale.ROOT));
    }

    private static void attributes(String inside, Map<String, String> to, boolean[] translatable) {
        int at = 0;
        while (at < inside.length()) {
            int equals = inside.indexOf('=', at);
            if (equals < 0) {
                return;
            }
            String name = inside.substring(at, equals).strip().toLowerCase(Locale.ROOT);
            int value = equals + 1;
            while (value < inside.length() && Character.isWhitespace(inside.charAt(value))) {
                value++;
            }
            char quote = value < inside.length() ? inside.charAt(value) : ' ';
            int end = quote == '"' || quote == '\'' ? inside.indexOf(quote, value + 1) : -1;
            String words;
            if (end > 0) {
                words = inside.substring(value + 1, end);
                at = end + 1;
            } else {
                end = value;
                while (end < inside.length() && !Character.isWhitespace(inside.charAt(end))) {
                    end++;
                }
                words = inside.substring(value, end);
                at = end + 1;
            }
            int space = name.lastIndexOf(' ');
            name = space < 0 ? name : name.substring(space + 1);
            if (READ.contains(name)) {
                translatable[0] = true;
            } else if (!LINKS.contains(name)) {
                // The number of a placeholder says where its value comes from, which the check of placeholders
                // compares.
                to.put(name, words.replaceAll("%\\d+\\$", "%"));
            }
        }
    }

    /** The one place in {@code text} that spells {@code tag} with spaces or full-width brackets; null where there is none or more than one. */
    static int @Nullable [] almost(Tag tag, String text) {
        int[] only = null;
        for (int at = 0; at < text.length(); at++) {
            char c = text.charAt(at);
            if (c != '<' && c != '＜') {
                continue;
            }
            int i = 0;
            int j = at;
            String wanted = tag.spelled;
            while (i < wanted.length() && j < text.length()) {
                char there = text.charAt(j);
                char narrow = there >= '\uFF01' && there <= '\uFF5E' ? (char) (there - 0xFEE0) : there;
                if (Character.toLowerCase(wanted.charAt(i)) == Character.toLowerCase(narrow)) {
                    i++;
                    j++;
                } else if (Character.isWhitespace(there)) {
                    j++;
                } else {
                    break;
                }
            }
            if (i == wanted.length() && !text.substring(at, j).equalsIgnoreCase(wanted)) {
                if (only != null) {
                    return null;
                }
                only = new int[] {at, j};
            }
        }
        return only;
    }
}
