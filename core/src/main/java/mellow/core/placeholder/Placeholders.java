package mellow.core.placeholder;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import mellow.core.placeholder.Placeholder.Kind;
import org.jspecify.annotations.Nullable;

/**
 * Finds placeholders. Where two readings of a place compete, the longer one that begins earlier wins: {@code {{name}}} before {@code {name}},
 * {@code %(n)s} before {@code %(}. A text with a typed ICU argument is read as an ICU message as a whole. Immutable.
 */
public final class Placeholders {

    /** ISO C §7.21.6.1 with POSIX positions, and {@code %@}. A space is a flag only before a width: "100 % der" is no placeholder. */
    private static final Pattern PRINTF = Pattern.compile(
            "%(?:%|(?:(\\d{1,3})\\$)?[-+#0']*(?: (?=\\d))?(?:\\d{1,4}|\\*(?:\\d{1,3}\\$)?)?(?:\\.(?:\\d{1,4}|\\*)?)?(hh|h|ll|l|q|L|j|z|t)?([diouxXeEfFgGaAcCsSpn@]))");

    /** What only looks like one: "%-encoding", "%time". A length or a flag without a width, and a word that goes on. */
    private static final Pattern WORD = Pattern.compile("%(?:-|[htjzq])[A-Za-z]{3,}");

    private static final Pattern NAMED_PRINTF =
            Pattern.compile("(?<!%)%\\(([A-Za-z_][\\w.]*)\\)[-+#0]*\\d*(?:\\.\\d+)?([diouxXeEfFgGcrsa])");
    private static final Pattern RUBY = Pattern.compile("(?<!%)%\\{([A-Za-z_]\\w*)\\}");
    /** Qt's arguments; a letter or a dollar sign after them makes another syntax of it. */
    private static final Pattern NUMBERED = Pattern.compile("(?<!%)%L?[1-9]\\d?(?!\\.\\d|[\\w$%])");

    private static final Pattern DOUBLE_BRACES = Pattern.compile("\\{\\{\\{?\\s*([^{}\\s][^{}]*?)\\s*\\}?\\}\\}");
    private static final Pattern DOLLAR_BRACES = Pattern.compile("\\$\\{\\s*([^{}\\s][^{}]*?)\\s*\\}");
    private static final Pattern BRACES =
            Pattern.compile("\\{\\s*(\\d{1,3}|[\\p{L}_][\\p{L}\\p{N}_.-]*)\\s*(?:[!:][^{}\\s]{1,20})?\\}");
    private static final Pattern TAG = Pattern.compile("<(/?)([A-Za-z][\\w:.-]*)((?:\\s+[^<>]*?)?)\\s*(/?)>");
    private static final Pattern MARK = Pattern.compile("#([A-Za-z_][\\w.-]*)#");
    private static final Pattern CODE_ID = Pattern.compile("\\b(?:id|dataRef)\\s*=\\s*[\"']([^\"']*)[\"']");

    private final List<com.google.re2j.Pattern> custom;

    /** The syntaxes that every table knows. */
    public static final Placeholders COMMON = new Placeholders(List.of());

    private Placeholders(List<com.google.re2j.Pattern> custom) {
        this.custom = custom;
    }

    /**
     * The common syntaxes and patterns of a table's own.
     *
     * @param patterns regular expressions of RE2, which take time linear in the text; each match is a placeholder
     * @throws com.google.re2j.PatternSyntaxException for one that is none
     */
    public static Placeholders with(List<String> patterns) {
        return new Placeholders(
                patterns.stream().map(com.google.re2j.Pattern::compile).toList());
    }

    /** The placeholders of {@code text} in the order in which they stand; none overlaps another. */
    public List<Placeholder> in(String text) {
        return in(text, true);
    }

    /** The same without tags, so that what stands in a tag's attributes is among them. */
    public List<Placeholder> inValues(String text) {
        return in(text, false);
    }

    private List<Placeholder> in(String text, boolean tags) {
        if (text.indexOf('%') < 0
                && text.indexOf('{') < 0
                && text.indexOf('<') < 0
                && text.indexOf('#') < 0
                && custom.isEmpty()) {
            return List.of();
        }
        List<Placeholder> found = new ArrayList<>();
        for (com.google.re2j.Pattern pattern : custom) {
            com.google.re2j.Matcher match = pattern.matcher(text);
            while (match.find()) {
                if (match.end() > match.start()) {
                    found.add(new Placeholder(Kind.CUSTOM, match.group(), match.group(), match.start(), match.end()));
                }
            }
        }
        IcuMessage message = IcuMessage.maybeTyped(text) ? IcuMessage.parse(text) : null;
        if (message != null && message.typed()) {
            message.arguments()
                    .forEach(argument -> found.add(new Placeholder(
                            argument.type().isEmpty() ? Kind.BRACES : Kind.ICU_ARGUMENT,
                            text.substring(argument.start(), argument.end()),
                            argument.type().isEmpty()
                                    ? "{" + argument.name() + "}"
                                    : "{" + argument.name() + "," + argument.type() + "}",
                            argument.start(),
                            argument.end())));
            if (tags) {
                collect(TAG, '<', Kind.TAG, text, found);
            }
            // Arguments stand inside others here, so everything that was found counts.
            found.sort(Comparator.comparingInt(Placeholder::start)
                    .thenComparing(Comparator.comparingInt(Placeholder::end).reversed()));
            return List.copyOf(found);
        }
        // Each syntax is looked for only where what begins it stands: most texts with braces have no per cent sign, and
        // the other way round.
        if (text.indexOf('{') >= 0) {
            if (text.contains("{{")) {
                collect(DOUBLE_BRACES, '{', Kind.DOUBLE_BRACES, text, found);
            }
            if (text.contains("${")) {
                collect(DOLLAR_BRACES, '$', Kind.DOLLAR_BRACES, text, found);
            }
            collect(BRACES, '{', Kind.BRACES, text, found);
        }
        if (text.indexOf('%') >= 0) {
            collect(NAMED_PRINTF, '%', Kind.NAMED_PRINTF, text, found);
            collect(RUBY, '%', Kind.NAMED_PRINTF, text, found);
            collect(NUMBERED, '%', Kind.NUMBERED, text, found);
            collect(PRINTF, '%', Kind.PRINTF, text, found);
        }
        if (tags && text.indexOf('<') >= 0) {
            collect(TAG, '<', Kind.TAG, text, found);
        }
        if (text.indexOf('#') >= 0) {
            collect(MARK, '#', Kind.MARK, text, found);
        }
        return numbered(apart(found));
    }

    /** The patterns of a table's own. */
    public List<String> patterns() {
        return custom.stream().map(com.google.re2j.Pattern::pattern).toList();
    }

    /** Whether a table's own syntaxes are among these. */
    public boolean custom() {
        return !custom.isEmpty();
    }

    /** {@code first} is what every match begins with. */
    private static void collect(Pattern pattern, char first, Kind kind, String text, List<Placeholder> to) {
        int begin = text.indexOf(first);
        if (begin < 0) {
            return;
        }
        Matcher match = pattern.matcher(text);
        for (boolean more = match.find(begin); more; more = match.find()) {
            String identity = identity(kind, match);
            if (kind == Kind.PRINTF
                    && WORD.matcher(text).region(match.start(), text.length()).lookingAt()) {
                continue;
            }
            if (!identity.isEmpty() && match.end() > match.start()) {
                to.add(new Placeholder(kind, match.group(), identity, match.start(), match.end()));
            }
        }
    }

    private static String identity(Kind kind, Matcher match) {
        return switch (kind) {
            // "%%" is a percent sign.
            case PRINTF ->
                match.group(3) == null
                        ? ""
                        : "%" + (match.group(1) == null ? "" : match.group(1) + "$")
                                + type(match.group(2), match.group(3));
            case NAMED_PRINTF ->
                match.groupCount() > 1
                        ? "%(" + match.group(1) + ")" + type(null, match.group(2))
                        : "%{" + match.group(1) + "}";
            case BRACES -> "{" + match.group(1) + "}";
            case DOUBLE_BRACES -> "{{" + match.group(1) + "}}";
            case DOLLAR_BRACES -> "${" + match.group(1) + "}";
            case TAG -> tag(match);
            case MARK, CUSTOM, ICU_ARGUMENT, NUMBERED -> match.group();
        };
    }

    /** {@code %d} and {@code %i} take the same argument, and {@code %x} and {@code %X} show it in other letters; {@code %ld} takes another. */
    private static String type(@Nullable String length, String conversion) {
        String same = conversion.equals("i")
                ? "d"
                : "XEGAF".contains(conversion) ? conversion.toLowerCase(Locale.ROOT) : conversion;
        return (length == null ? "" : length) + same;
    }

    /** A tag by its name, and by its id where it has one, as the codes of XLIFF do. */
    private static String tag(Matcher match) {
        Matcher id = CODE_ID.matcher(match.group(3));
        String name = match.group(2).toLowerCase(Locale.ROOT);
        return "<" + match.group(1) + name + (id.find() ? " " + id.group(1) : "") + match.group(4) + ">";
    }

    /** Of those that overlap, the one that begins first, then the longest. */
    private static List<Placeholder> apart(List<Placeholder> found) {
        if (found.size() < 2) {
            return found;
        }
        List<Placeholder> sorted = new ArrayList<>(found);
        sorted.sort(Comparator.comparingInt(Placeholder::start)
                .thenComparing(Comparator.comparingInt(Placeholder::end).reversed()));
        List<Placeholder> apart = new ArrayList<>();
        int end = 0;
        for (Placeholder placeholder : sorted) {
            if (placeholder.start() >= end) {
                apart.add(placeholder);
                end = placeholder.end();
            }
        }
        return apart;
    }

    /** Printf arguments without a position take them in order: the second {@code %s} is the argument {@code %2$s}. */
    private static List<Placeholder> numbered(List<Placeholder> placeholders) {
        List<Placeholder> numbered = new ArrayList<>(placeholders.size());
        int next = 1;
        for (Placeholder placeholder : placeholders) {
            if (placeholder.kind() == Kind.PRINTF && placeholder.identity().indexOf('$') < 0) {
                numbered.add(new Placeholder(
                        Kind.PRINTF,
                        placeholder.spelled(),
                        "%" + next++ + "$" + placeholder.identity().substring(1),
                        placeholder.start(),
                        placeholder.end()));
            } else {
                numbered.add(placeholder);
            }
        }
        return List.copyOf(numbered);
    }

    /**
     * What a translation lacks and what it has too much of, each as spelled, in order. Where a placeholder stands makes no difference; how often it
     * stands does, except in an ICU message, where every branch may repeat it.
     *
     * @param source the text that was translated
     * @param translation its translation
     */
    public Difference compare(String source, String translation) {
        List<Placeholder> asked = in(source);
        List<Placeholder> given = in(translation);
        if (asked.isEmpty() && given.isEmpty()) {
            return Difference.NONE;
        }
        boolean branches = IcuMessage.parse(source).typed()
                || IcuMessage.parse(translation).typed();
        Map<String, ArrayDeque<Integer>> wanted = new HashMap<>();
        for (int i = 0; i < asked.size(); i++) {
            wanted.computeIfAbsent(asked.get(i).identity(), identity -> new ArrayDeque<>())
                    .add(i);
        }
        BitSet missing = new BitSet();
        missing.set(0, asked.size());
        List<String> extra = new ArrayList<>();
        for (Placeholder placeholder : given) {
            ArrayDeque<Integer> same = wanted.get(placeholder.identity());
            if (same == null || (same.isEmpty() && !branches)) {
                extra.add(placeholder.spelled());
                continue;
            }
            do {
                Integer place = same.poll();
                if (place != null) {
                    missing.clear(place);
                }
            } while (branches && !same.isEmpty());
        }
        return new Difference(
                missing.stream()
                        .mapToObj(place -> asked.get(place).spelled())
                        .distinct()
                        .toList(),
                List.copyOf(extra));
    }

    /**
     * How the placeholders of two texts differ.
     *
     * @param missing in the source and not in the translation
     * @param extra in the translation and not in the source
     */
    public record Difference(List<String> missing, List<String> extra) {

        private static final Difference NONE = new Difference(List.of(), List.of());

        /** Whether they are the same. */
        public boolean none() {
            return missing.isEmpty() && extra.isEmpty();
        }
    }
}
