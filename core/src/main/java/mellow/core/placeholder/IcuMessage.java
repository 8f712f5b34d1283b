package mellow.core.placeholder;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Set;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * The structure of an ICU MessageFormat pattern: its arguments with their types, those in the branches of others included, and the first place where
 * it is broken. Apostrophes quote as ICU's default mode has it: only before a brace, or before "#" and "|" inside plurals.
 *
 * @param arguments in the order in which they begin
 * @param error what is wrong, null for nothing
 * @param errorAt where, in UTF-16 units, -1 for nothing
 */
public record IcuMessage(List<Argument> arguments, @Nullable String error, int errorAt) {

    private static final Set<String> BRANCHING = Set.of("plural", "select", "selectordinal");
    private static final Set<String> SIMPLE = Set.of("number", "date", "time", "spellout", "ordinal", "duration");
    private static final Set<String> CATEGORIES = Set.of("zero", "one", "two", "few", "many", "other");
    private static final Pattern NAME = Pattern.compile("0|[1-9][0-9]{0,4}|[\\p{L}_][\\p{L}\\p{N}_.-]*");
    private static final Pattern EXACT = Pattern.compile("=[0-9]{1,9}");
    private static final Pattern CHOSEN = Pattern.compile("[\\p{L}\\p{N}_-]+");
    private static final int DEEPEST = 50;

    /**
     * An argument.
     *
     * @param name its name or number
     * @param type its type, empty for none
     * @param selectors the names of its branches, in order
     * @param start at its brace
     * @param end after its closing brace
     */
    public record Argument(String name, String type, List<String> selectors, int start, int end) {}

    /** Whether the pattern is sound and has an argument with a type, so that it is a message beyond doubt. */
    public boolean typed() {
        return error == null && arguments.stream().anyMatch(argument -> !argument.type.isEmpty());
    }

    /** Whether it can be {@link #typed} at all: a type stands behind a comma. Much quicker than reading it. */
    public static boolean maybeTyped(String pattern) {
        return pattern.indexOf('{') >= 0 && pattern.indexOf(',') >= 0;
    }

    /** Reads a pattern; a broken one keeps the arguments that were read before. */
    public static IcuMessage parse(String pattern) {
        if (pattern.indexOf('{') < 0 && pattern.indexOf('}') < 0) {
            return new IcuMessage(List.of(), null, -1);
        }
        Parser parser = new Parser(pattern);
        try {
            parser.message(0, false);
            return new IcuMessage(parser.sorted(), null, -1);
        } catch (Broken broken) {
            return new IcuMessage(parser.sorted(), broken.getMessage(), broken.at);
        }
    }

    /**
     * A stretch of a pattern, in UTF-16 units.
     *
     * @param end after its last character
     */
    public record Stretch(int start, int end) {}

    /**
     * The words for people in a pattern, without its syntax and what is quoted in it.
     *
     * @return a list for the outermost message and one for each branch, which are read apart from each other; empty for a broken pattern
     */
    public static List<List<Stretch>> words(String pattern) {
        Parser parser = new Parser(pattern);
        try {
            parser.message(0, false);
            return List.copyOf(parser.words);
        } catch (Broken broken) {
            return List.of();
        }
    }

    private static final class Broken extends RuntimeException {

        private final int at;

        Broken(int at, String what) {
            super(what, null, false, false);
            this.at = at;
        }
    }

    private static final class Parser {

        private final String text;
        private final List<Argument> arguments = new ArrayList<>();
        private final List<List<Stretch>> words = new ArrayList<>();
        private int at;

        Parser(String text) {
            this.text = text;
        }

        List<Argument> sorted() {
            arguments.sort(Comparator.comparingInt(Argument::start));
            return List.copyOf(arguments);
        }

        /** Text up to the brace that closes it, or to the end for the outermost. */
        void message(int depth, boolean inPlural) {
            if (depth > DEEPEST) {
                throw new Broken(at, "branches nested deeper than " + DEEPEST);
            }
            List<Stretch> ofThis = new ArrayList<>();
            words.add(ofThis);
            while (at < text.length()) {
                char c = text.charAt(at);
                if (c == '\'') {
                    quoted(inPlural);
                } else if (c == '{') {
                    argument(depth, inPlural);
                } else if (c == '}') {
                    if (depth == 0) {
                        throw new Broken(at, "“}” that closes nothing");
                    }
                    return;
                } else {
                    int start = at;
                    while (at < text.length() && "'{}".indexOf(text.charAt(at)) < 0) {
                        at++;
                    }
                    ofThis.add(new Stretch(start, at));
                }
            }
            if (depth > 0) {
                throw new Broken(at, "a branch without its closing “}”");
            }
        }

        private void quoted(boolean inPlural) {
            char next = at + 1 < text.length() ? text.charAt(at + 1) : ' ';
            if (next == '\'') {
                at += 2;
            } else if (next == '{' || next == '}' || (inPlural && next == '#')) {
                int end = at + 1;
                while (end < text.length()) {
                    if (text.charAt(end) == '\'') {
                        if (end + 1 < text.length() && text.charAt(end + 1) == '\'') {
                            end++;
                        } else {
                            break;
                        }
                    }
                    end++;
                }
                at = Math.min(text.length(), end + 1);
            } else {
                at++;
            }
        }

        private void argument(int depth, boolean inPlural) {
            int start = at++;
            String name = word("an argument's name");
            if (!NAME.matcher(name).matches()) {
                throw new Broken(start, "“" + name + "”, which is no argument's name");
            }
            if (take('}')) {
                arguments.add(new Argument(name, "", List.of(), start, at));
                return;
            }
            if (!take(',')) {
                throw new Broken(at, "“,” or “}” is missing after “" + name + "”");
            }
            String type = word("a type");
            List<String> selectors = List.of();
            if (BRANCHING.contains(type)) {
                if (!take(',')) {
                    throw new Broken(at, "the branches of “" + name + "” are missing");
                }
                selectors = branches(name, type, depth, inPlural || !type.equals("select"));
            } else if (!SIMPLE.contains(type)) {
                throw new Broken(start, "“" + type + "”, which is no type of argument");
            } else if (take(',')) {
                style();
            }
            if (!take('}')) {
                throw new Broken(at, "“}” is missing for the argument “" + name + "”");
            }
            arguments.add(new Argument(name, type, selectors, start, at));
        }

        private List<String> branches(String name, String type, int depth, boolean inPlural) {
            List<String> selectors = new ArrayList<>();
            space();
            while (at < text.length() && text.charAt(at) != '}') {
                int start = at;
                String selector = word("a branch's name");
                if (selector.startsWith("offset:") && !type.equals("select") && selectors.isEmpty()) {
                    if (selector.equals("offset:")) {
                        word("a number");
                    }
                    continue;
                }
                boolean exact = EXACT.matcher(selector).matches();
                boolean sound = type.equals("select")
                        ? CHOSEN.matcher(selector).matches()
                        : exact || CATEGORIES.contains(selector);
                if (!sound) {
                    throw new Broken(start, "“" + selector + "”, which is no branch of a " + type);
                }
                if (selectors.contains(selector)) {
                    throw new Broken(start, "the branch “" + selector + "” twice");
                }
                if (!take('{')) {
                    throw new Broken(at, "“{” is missing after the branch “" + selector + "”");
                }
                message(depth + 1, inPlural);
                at++;
                selectors.add(selector);
                space();
            }
            if (!selectors.contains("other")) {
                throw new Broken(at, "the argument “" + name + "” has no branch “other”");
            }
            return selectors;
        }

        /** The style of a simple argument; braces in it pair. */
        private void style() {
            int open = 0;
            while (at < text.length() && (open > 0 || text.charAt(at) != '}')) {
                char c = text.charAt(at);
                if (c == '\'') {
                    int end = text.indexOf('\'', at + 1);
                    at = end < 0 ? text.length() - 1 : end;
                }
                open += c == '{' ? 1 : c == '}' ? -1 : 0;
                at++;
            }
        }

        private String word(String what) {
            space();
            int start = at;
            while (at < text.length()
                    && "{},".indexOf(text.charAt(at)) < 0
                    && !Character.isWhitespace(text.charAt(at))) {
                at++;
            }
            if (start == at) {
                throw new Broken(at, what + " is missing");
            }
            String word = text.substring(start, at);
            space();
            return word;
        }

        private boolean take(char c) {
            space();
            if (at < text.length() && text.charAt(at) == c) {
                at++;
                return true;
            }
            return false;
        }

        private void space() {
            while (at < text.length() && Character.isWhitespace(text.charAt(at))) {
                at++;
            }
        }
    }
}
