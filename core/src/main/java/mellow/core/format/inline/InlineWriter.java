package mellow.core.format.inline;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import mellow.core.format.inline.InlineText.Code;
import mellow.core.format.inline.InlineText.Kind;
import mellow.core.format.inline.InlineText.Piece;
import mellow.core.format.inline.InlineText.Words;
import mellow.core.format.xml.XmlText;

/**
 * Writes the texts of one unit of a fresh file as a standard wants them. Codes that the standard has stand as they are; those of others are carried as the
 * original's code by the standard's own elements, with a mark by which {@link #MARK reading} finds the spelling again; words are escaped. Ids are
 * unique in each text, and the same code has the same id in both.
 */
public final class InlineWriter {

    /** Marks an element whose content, or original data, is the spelling of a code: {@code ctype}, {@code type}, or {@code subType} of XLIFF 2. */
    public static final String MARK = "x-mellow-code";

    /** The same as XLIFF 2 wants a sub-type. */
    public static final String SUB_TYPE = "mellow:code";

    private final InlineStandard standard;
    private final Set<String> taken = new HashSet<>();
    private final Map<String, Integer> numbers = new HashMap<>();
    private final List<String> data = new ArrayList<>();
    private int last;

    /** A writer for one unit with these texts. */
    public InlineWriter(InlineStandard standard, List<String> texts) {
        this.standard = standard;
        for (String text : texts) {
            for (Piece piece : text.indexOf('<') < 0 ? List.<Piece>of() : InlineText.of(text)) {
                if (piece instanceof Code code) {
                    taken.add(standard.idOf(code));
                }
            }
        }
    }

    /**
     * A text as markup.
     *
     * @throws IllegalArgumentException saying which character the standard cannot hold
     */
    public String markup(String text) {
        List<Piece> pieces = InlineText.of(text);
        boolean[] own = own(pieces);
        Map<String, Integer> turns = new HashMap<>();
        Map<Integer, Integer> opened = new HashMap<>();
        StringBuilder markup = new StringBuilder();
        for (int i = 0; i < pieces.size(); i++) {
            if (pieces.get(i) instanceof Words words) {
                markup.append(escaped(words.text()));
            } else if (pieces.get(i) instanceof Code code) {
                if (own[i]) {
                    markup.append(code.spelling());
                } else if (code.kind() == Kind.CLOSE) {
                    markup.append(closing(code, opened.getOrDefault(code.partner(), 0)));
                } else {
                    int turn = turns.merge(code.spelling(), 1, Integer::sum);
                    int number = numbers.computeIfAbsent(turn + code.spelling(), any -> next());
                    opened.put(i, number);
                    markup.append(
                            code.kind() == Kind.ALONE
                                    ? alone(code, number)
                                    : opening(code, (Code) pieces.get(code.partner()), number));
                }
            }
        }
        return markup.toString();
    }

    /** What the texts written so far refer to, in order: {@code <data>} elements of XLIFF 2, with {@code d1} as the first one's id. */
    public List<String> data() {
        return List.copyOf(data);
    }

    private int next() {
        do {
            last++;
        } while (taken.contains(Integer.toString(last)));
        return last;
    }

    /** Which pieces are codes that may stand as they are: the standard's own, none with another's id, and those that come in twos with the other. */
    private boolean[] own(List<Piece> pieces) {
        boolean[] own = new boolean[pieces.size()];
        Map<String, Integer> begins = new HashMap<>();
        Map<String, Integer> ends = new HashMap<>();
        Set<String> ids = new HashSet<>();
        for (int i = 0; i < pieces.size(); i++) {
            if (!(pieces.get(i) instanceof Code code) || code.kind() == Kind.CLOSE || !standard.has(code)) {
                continue;
            }
            String id = standard.idOf(code);
            if (BEGINS.contains(code.name()) && begins.putIfAbsent(linked(code), i) == null) {
                own[i] = id.isEmpty() || ids.add(id);
            } else if (ENDS.contains(code.name()) && ends.putIfAbsent(linked(code), i) == null) {
                // The end of two may have the id of its beginning.
                own[i] = true;
            } else if (!BEGINS.contains(code.name()) && !ENDS.contains(code.name())) {
                own[i] = id.isEmpty() || ids.add(id);
            }
        }
        begins.forEach((link, at) -> {
            int end = ends.getOrDefault(link, -1);
            boolean both = end > at && own[at] && own[end];
            own[at] = both;
            if (end >= 0) {
                own[end] = both;
            }
        });
        ends.forEach((link, at) -> own[at] &= begins.containsKey(link));
        for (int i = 0; i < pieces.size(); i++) {
            if (pieces.get(i) instanceof Code code && code.kind() == Kind.CLOSE) {
                own[i] = own[code.partner()];
            }
        }
        return own;
    }

    private static final Set<String> BEGINS = Set.of("bpt", "bx", "sc");
    private static final Set<String> ENDS = Set.of("ept", "ex", "ec");

    /** By what the beginning and the end of two know each other. */
    private String linked(Code code) {
        Map<String, String> attributes = code.attributes();
        String family = code.name().substring(code.name().length() - 1);
        String link = standard == InlineStandard.XLIFF_2
                ? attributes.getOrDefault("startRef", attributes.getOrDefault("id", ""))
                : attributes.getOrDefault("rid", standard.idOf(code));
        return (family.equals("t") ? "pt " : "x ") + link;
    }

    private String alone(Code code, int number) {
        String held = XmlText.escape(code.spelling());
        return switch (standard) {
            case XLIFF_1 -> "<ph id=\"" + number + "\" ctype=\"" + MARK + "\">" + held + "</ph>";
            case TMX -> "<ph type=\"" + MARK + "\">" + held + "</ph>";
            case XLIFF_2 ->
                "<ph id=\"" + number + "\" type=\"other\" subType=\"" + SUB_TYPE + "\" dataRef=\"" + datum(held)
                        + "\"/>";
        };
    }

    private String opening(Code code, Code close, int number) {
        String held = XmlText.escape(code.spelling());
        return switch (standard) {
            case XLIFF_1 ->
                "<bpt id=\"" + number + "\" rid=\"" + number + "\" ctype=\"" + MARK + "\">" + held + "</bpt>";
            case TMX -> "<bpt i=\"" + number + "\" type=\"" + MARK + "\">" + held + "</bpt>";
            case XLIFF_2 ->
                "<pc id=\"" + number + "\" type=\"other\" subType=\"" + SUB_TYPE + "\" dataRefStart=\"" + datum(held)
                        + "\" dataRefEnd=\"" + datum(XmlText.escape(close.spelling())) + "\">";
        };
    }

    private String closing(Code code, int opened) {
        String held = XmlText.escape(code.spelling());
        return switch (standard) {
            case XLIFF_1 -> {
                int own = numbers.computeIfAbsent("/" + opened, any -> next());
                yield "<ept id=\"" + own + "\" rid=\"" + opened + "\">" + held + "</ept>";
            }
            case TMX -> "<ept i=\"" + opened + "\">" + held + "</ept>";
            case XLIFF_2 -> "</pc>";
        };
    }

    private String datum(String held) {
        int known = data.indexOf(held);
        if (known < 0) {
            data.add(held);
            known = data.size() - 1;
        }
        return "d" + (known + 1);
    }

    private String escaped(String text) {
        if (XmlText.unwritable(text).isEmpty()) {
            return XmlText.escape(text);
        }
        if (standard != InlineStandard.XLIFF_2) {
            throw new IllegalArgumentException(
                    "the character " + XmlText.unwritable(text).orElseThrow() + ", which XML cannot hold");
        }
        return withControls(text);
    }

    /** XLIFF 2.1 §4.2.3.1: {@code <cp hex="001A"/>} is a character that XML cannot hold. */
    public static String withControls(String text) {
        StringBuilder escaped = new StringBuilder();
        text.codePoints()
                .forEach(c -> escaped.append(
                        XmlText.allowed(c)
                                ? XmlText.escape(Character.toString(c))
                                : String.format("<cp hex=\"%04X\"/>", c)));
        return escaped.toString().replace("]]>", "]]&gt;");
    }
}
