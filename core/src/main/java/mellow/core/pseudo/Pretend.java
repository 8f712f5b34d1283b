package mellow.core.pseudo;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.Optional;
import java.util.SortedMap;
import java.util.SplittableRandom;
import java.util.TreeMap;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import mellow.core.language.LanguageTag;
import mellow.core.placeholder.DatePattern;
import mellow.core.placeholder.IcuMessage;
import mellow.core.placeholder.IcuMessage.Stretch;
import mellow.core.placeholder.Placeholder;
import mellow.core.placeholder.Placeholders;

/**
 * A pretend language: made from the source, longer and with other letters, so that whoever looks at a product sees what would not fit and what was never given
 * out for translation. Placeholders, tags, links, entities and the syntax of ICU messages stay as they are. The same text and seed give the same words every
 * time, and by its marks the source can be had back from what was made. Takes time linear in the text.
 *
 * @param letters what becomes of letters
 * @param longerBy by how many percent a long text grows, 0 to {@value #MOST}; short ones grow more, as they do in translation
 * @param bracketed whether brackets stand around each text, so that a cut one or two joined ones are seen
 * @param mirrored whether words run from right to left
 * @param seed chooses what is added
 */
public record Pretend(Letters letters, int longerBy, boolean bracketed, boolean mirrored, long seed) {

    /** A text that is four times as long shows nothing more. */
    public static final int MOST = 300;

    /** The tag of accented, longer texts in CLDR, {@code en-XA}. */
    public static final LanguageTag ACCENTS = new LanguageTag("en-XA");

    /** The tag of texts that run from right to left in CLDR, {@code ar-XB}. */
    public static final LanguageTag RIGHT_TO_LEFT = new LanguageTag("ar-XB");

    private static final Pretend LONGER = new Pretend(Letters.ACCENTED, 35, true, false, 1);
    private static final Pretend TURNED = new Pretend(Letters.PLAIN, 0, false, true, 1);

    /** Begins and ends what was added. */
    private static final char ADDED = '·';
    /** Stands before a character of the source that looks as if it had been made here: WORD JOINER, which is not seen. */
    private static final char AS_IT_WAS = '\u2060';

    private static final char TURN = '\u202E';
    private static final char TURN_BACK = '\u202C';
    private static final int SHORTEST_ADDED = 4;
    private static final String[] SYLLABLES = {
        "va", "lo", "mi", "ner", "tu", "sal", "ko", "rin", "pa", "dem", "ul", "bo"
    };

    private static final Pattern ENTITY_OR_ESCAPE = Pattern.compile(
            "&(?:#[0-9]{1,7}|#x[0-9A-Fa-f]{1,6}|[A-Za-z][A-Za-z0-9]{1,30});|\\\\(?:u[0-9A-Fa-f]{4}|.)?");

    public Pretend {
        if (longerBy < 0 || longerBy > MOST) {
            throw new IllegalArgumentException("a text grows by 0 to " + MOST + " percent");
        }
    }

    /** The pretend language that a tag of CLDR means, none for a real one. */
    public static Optional<Pretend> of(LanguageTag tag) {
        return tag.equals(ACCENTS)
                ? Optional.of(LONGER)
                : tag.equals(RIGHT_TO_LEFT) ? Optional.of(TURNED) : Optional.empty();
    }

    /** The same with other letters, longer by another percentage. */
    public Pretend with(Letters others, int percent) {
        return new Pretend(others, percent, bracketed, mirrored, seed);
    }

    /** All forms of a source in this language. */
    public SortedMap<String, String> of(SortedMap<String, String> source, Placeholders syntax) {
        SortedMap<String, String> forms = new TreeMap<>();
        source.forEach((name, text) -> forms.put(name, of(text, syntax)));
        return forms;
    }

    /**
     * A source in this language. A text without words, such as a number or a pattern of dates, is the same in it.
     *
     * @param syntax how placeholders are found
     */
    public String of(String source, Placeholders syntax) {
        BitSet closed = closed(source, syntax);
        if (wordless(source, closed)) {
            return source;
        }
        StringBuilder made = new StringBuilder(source.length() * 2);
        int[] added = additions(source, closed);
        BitSet turned = mirrored ? turned(source, closed) : new BitSet();
        for (int at = 0; at < source.length(); at++) {
            char c = source.charAt(at);
            if (turned.get(at) && (at == 0 || !turned.get(at - 1))) {
                made.append(TURN);
            }
            if (closed.get(at)) {
                made.append(c);
            } else if (looksMade(c)) {
                made.append(AS_IT_WAS).append(c);
            } else {
                letters.append(c, made);
            }
            if (added[at] > 0) {
                add(added[at], source.hashCode() + at, made);
            }
            if (turned.get(at) && !turned.get(at + 1)) {
                made.append(TURN_BACK);
            }
        }
        return bracketed ? "[" + made + "]" : made.toString();
    }

    /** The source of what {@link #of(String, Placeholders)} made with the same syntax. */
    public String source(String made, Placeholders syntax) {
        String source = undone(bracketed && made.length() > 1 ? made.substring(1, made.length() - 1) : made, syntax);
        // What has no words was not changed.
        return of(source, syntax).equals(made) ? source : made;
    }

    private String undone(String bare, Placeholders syntax) {
        StringBuilder source = new StringBuilder(bare.length());
        BitSet closed = closed(bare, syntax);
        for (int at = 0; at < bare.length(); at++) {
            char c = bare.charAt(at);
            if (closed.get(at)) {
                source.append(c);
            } else if (c == AS_IT_WAS && at + 1 < bare.length()) {
                at++;
                source.append(bare.charAt(at));
            } else if (c == ADDED && bare.indexOf(ADDED, at + 1) > 0) {
                at = bare.indexOf(ADDED, at + 1);
            } else if (c != TURN && c != TURN_BACK) {
                letters.appendSource(c, source);
            }
        }
        return source.toString();
    }

    private boolean looksMade(char c) {
        return c == ADDED || c == AS_IT_WAS || c == TURN || c == TURN_BACK || letters.looksMade(c);
    }

    private static boolean wordless(String text, BitSet closed) {
        return DatePattern.is(text) || DatePattern.inWords(text) || !hasLetters(text, closed, 0, text.length());
    }

    private static boolean hasLetters(String text, BitSet closed, int start, int end) {
        for (int at = closed.nextClearBit(start); at < end; at = closed.nextClearBit(at + 1)) {
            if (Character.isLetter(text.codePointAt(at))) {
                return true;
            }
        }
        return false;
    }

    /** What runs from right to left: words with the spaces between them, line by line. */
    private static BitSet turned(String text, BitSet closed) {
        BitSet turned = new BitSet();
        int at = 0;
        while (at < text.length()) {
            int start = at;
            int last = start;
            while (at < text.length() && !closed.get(at) && text.charAt(at) != '\n' && text.charAt(at) != '\r') {
                boolean space = Character.isWhitespace(text.charAt(at++));
                start = space && last == start ? at : start;
                last = space ? Math.max(last, start) : at;
            }
            turned.set(start, last);
            at++;
        }
        return turned;
    }

    /** How many characters are added after each place. */
    private int[] additions(String text, BitSet closed) {
        int[] added = new int[text.length()];
        if (longerBy == 0) {
            return added;
        }
        for (List<Stretch> message : messages(text)) {
            int characters = 0;
            int last = -1;
            boolean words = false;
            for (Stretch stretch : message) {
                words |= hasLetters(text, closed, stretch.start(), stretch.end());
                for (int at = closed.nextClearBit(stretch.start());
                        at < stretch.end();
                        at = closed.nextClearBit(at + 1)) {
                    char c = text.charAt(at);
                    characters += Character.isLowSurrogate(c) ? 0 : 1;
                    last = Character.isWhitespace(c) ? last : at;
                }
            }
            if (words) {
                added[last] = growth(characters);
            }
        }
        return added;
    }

    /** An ICU message has words in its branches; any other text is one message. */
    private static List<List<Stretch>> messages(String text) {
        return IcuMessage.maybeTyped(text) && IcuMessage.parse(text).typed()
                ? IcuMessage.words(text)
                : List.of(List.of(new Stretch(0, text.length())));
    }

    /**
     * By how many characters a text of so many grows. "Off" becomes "Pois päältä", a paragraph only what is usual between two languages.
     *
     * @param characters at least 1
     */
    int growth(int characters) {
        double habit = characters <= 4
                ? 4
                : characters <= 10 ? 3 : characters <= 20 ? 2 : characters <= 30 ? 1.6 : characters <= 50 ? 1.3 : 1;
        return longerBy == 0 ? 0 : Math.max(SHORTEST_ADDED, (int) Math.ceil(characters * longerBy * habit / 100));
    }

    /** Words of made-up syllables between marks, exactly so many characters in all. */
    private void add(int characters, int place, StringBuilder to) {
        SplittableRandom random = new SplittableRandom(seed * 31 + place);
        StringBuilder words = new StringBuilder(characters).append(ADDED);
        while (words.length() < characters - 1) {
            words.append(' ');
            for (int syllables = 1 + random.nextInt(3); syllables > 0; syllables--) {
                words.append(SYLLABLES[random.nextInt(SYLLABLES.length)]);
            }
        }
        words.setLength(characters - 1);
        if (words.charAt(characters - 2) == ' ') {
            words.setCharAt(characters - 2, 'o');
        }
        to.append(ADDED);
        for (int i = 1; i < words.length(); i++) {
            letters.append(words.charAt(i), to);
        }
        to.append(ADDED);
    }

    /** What must stay as it is, in UTF-16 units. */
    private static BitSet closed(String text, Placeholders syntax) {
        BitSet closed = new BitSet();
        if (IcuMessage.maybeTyped(text) && IcuMessage.parse(text).typed()) {
            closed.set(0, text.length());
            IcuMessage.words(text)
                    .forEach(message -> message.forEach(stretch -> closed.clear(stretch.start(), stretch.end())));
        }
        for (Placeholder one : syntax.in(text)) {
            if (one.kind() != Placeholder.Kind.ICU_ARGUMENT) {
                closed.set(one.start(), one.end());
            }
        }
        if (text.indexOf('&') >= 0 || text.indexOf('\\') >= 0) {
            Matcher match = ENTITY_OR_ESCAPE.matcher(text);
            while (match.find()) {
                closed.set(match.start(), match.end());
            }
        }
        if (text.contains("://") || text.indexOf('@') >= 0 || text.contains("www.")) {
            for (Stretch word : spaced(text)) {
                String one = text.substring(word.start(), word.end());
                if (one.contains("://") || one.indexOf('@') >= 0 || one.contains("www.")) {
                    closed.set(word.start(), word.end());
                }
            }
        }
        return closed;
    }

    private static List<Stretch> spaced(String text) {
        List<Stretch> words = new ArrayList<>();
        int at = 0;
        while (at < text.length()) {
            int start = at;
            while (at < text.length() && !Character.isWhitespace(text.charAt(at))) {
                at++;
            }
            if (at > start) {
                words.add(new Stretch(start, at));
            }
            at++;
        }
        return words;
    }
}
