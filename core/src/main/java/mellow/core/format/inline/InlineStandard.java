package mellow.core.format.inline;

import java.util.Map;
import java.util.Set;
import java.util.regex.Pattern;
import mellow.core.format.inline.InlineText.Code;

/** Which inline elements a standard has, and with which attributes they may stand in a file that is written fresh. */
public enum InlineStandard {
    /** XLIFF 1.2 §2.4. */
    XLIFF_1(
            "id",
            Map.of(
                    "g", new Rule("id", "ctype clone xid equiv-text"),
                    "x", new Rule("id", "ctype clone xid equiv-text"),
                    "bx", new Rule("id", "rid ctype clone xid equiv-text"),
                    "ex", new Rule("id", "rid xid equiv-text"),
                    "ph", new Rule("id", "ctype crc assoc xid equiv-text"),
                    "bpt", new Rule("id", "rid ctype crc xid equiv-text"),
                    "ept", new Rule("id", "rid crc xid equiv-text"),
                    "it", new Rule("id pos", "rid ctype crc xid equiv-text"),
                    "mrk", new Rule("mtype", "mid comment"))),
    /** XLIFF 2.1 §4.2.3; what refers to original data of another file is no part of it. */
    XLIFF_2(
            "id",
            Map.of(
                    "ph", new Rule("id", "canCopy canDelete canReorder disp equiv type subType"),
                    "pc",
                            new Rule(
                                    "id",
                                    "canCopy canDelete canOverlap canReorder dir dispEnd dispStart equivEnd equivStart type subType"),
                    "sc",
                            new Rule(
                                    "id",
                                    "canCopy canDelete canOverlap canReorder dir disp equiv isolated type subType"),
                    "ec", new Rule("startRef", "canCopy canDelete canOverlap canReorder disp equiv type subType"),
                    "mrk", new Rule("id", "translate type value"))),
    /** TMX 1.4b §5. */
    TMX(
            "i",
            Map.of(
                    "bpt", new Rule("i", "x type"),
                    "ept", new Rule("i", ""),
                    "ph", new Rule("", "x assoc type"),
                    "it", new Rule("pos", "x type"),
                    "hi", new Rule("", "x type")));

    /** Elements that hold code of the original, spelled as characters. */
    private static final Set<String> NATIVE = Set.of("ph", "bpt", "ept", "it");

    private static final Pattern NMTOKEN = Pattern.compile("[\\w.:-]+", Pattern.UNICODE_CHARACTER_CLASS);
    private static final Set<String> TYPES = Set.of("fmt", "ui", "quote", "link", "image", "other");

    private final String id;
    private final Map<String, Rule> rules;

    /** Attributes by name, separated by spaces. */
    private record Rule(Set<String> required, Set<String> allowed) {

        Rule(String required, String allowed) {
            this(words(required), words(allowed));
        }

        private static Set<String> words(String list) {
            return list.isEmpty() ? Set.of() : Set.of(list.split(" "));
        }
    }

    InlineStandard(String id, Map<String, Rule> rules) {
        this.id = id;
        this.rules = rules;
    }

    /** Whether the code is one of this standard's that a fresh file may have, seen by itself. */
    boolean has(Code code) {
        Rule rule = rules.get(code.name());
        boolean holdsCode = NATIVE.contains(code.name()) && this != XLIFF_2;
        boolean empty = code.content().isEmpty();
        return rule != null
                && code.attributes().keySet().containsAll(rule.required)
                && code.attributes().keySet().stream()
                        .allMatch(name -> rule.required.contains(name) || rule.allowed.contains(name))
                && (holdsCode || empty)
                && (this != XLIFF_2 || wellTyped(code.attributes()));
    }

    /** XLIFF 2.1 §4.3.1: ids are NMTOKENs, types are of a list, and a sub-type needs a type. */
    private static boolean wellTyped(Map<String, String> attributes) {
        String type = attributes.get("type");
        String sub = attributes.get("subType");
        boolean typed = type == null || TYPES.contains(type);
        return typed
                && (sub == null || (type != null && sub.indexOf(':') > 0))
                && NMTOKEN.matcher(attributes.getOrDefault("id", "x")).matches();
    }

    /** What tells the code from others in its text; empty for a code that needs nothing of the kind. */
    String idOf(Code code) {
        return code.attributes().getOrDefault(id, "");
    }
}
