package mellow.core.delivery;

import com.ibm.icu.text.Transliterator;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.stream.Collectors;

/** Names of constants made of keys: words are split at anything but letters and digits and at humps. */
public final class Identifiers {

    private static final Transliterator TO_ASCII = Transliterator.getInstance("Any-Latin; Latin-ASCII");

    /** What neither TypeScript nor Java nor C lets be a name. */
    private static final Set<String> RESERVED =
            Set.of(("abstract any as assert async auto await boolean break byte case catch char class const continue "
                            + "debugger declare default delete do double else enum eval export extends extern false final finally float for from function get goto "
                            + "if implements import in inline instanceof int interface is keyof let long module namespace native never new null number object of "
                            + "package private protected public readonly register require restrict return set short signed sizeof static strictfp string struct "
                            + "super switch symbol synchronized this throw throws transient true try type typedef typeof undefined union unique unknown unsigned "
                            + "using var void volatile while with yield arguments constructor")
                    .split(" "));

    private Identifiers() {}

    /** {@code ramp.stepUp} as {@code RAMP_STEP_UP}, as constants are written in Java and C. */
    public static String upperSnake(String key) {
        return safe(
                words(key).stream().map(word -> word.toUpperCase(Locale.ROOT)).collect(Collectors.joining("_")));
    }

    /** {@code ramp.step-up} as {@code rampStepUp}, as names are written in TypeScript. */
    public static String camelCase(String key) {
        StringBuilder name = new StringBuilder();
        for (String word : words(key)) {
            String small = word.toLowerCase(Locale.ROOT);
            name.append(name.isEmpty() ? small : Character.toUpperCase(small.charAt(0)) + small.substring(1));
        }
        return safe(name.toString());
    }

    private static String safe(String name) {
        if (name.isEmpty()) {
            return "_";
        }
        return Character.isDigit(name.charAt(0)) ? "_" + name : RESERVED.contains(name) ? name + "_" : name;
    }

    private static List<String> words(String key) {
        String ascii = ascii(key);
        List<String> words = new ArrayList<>();
        StringBuilder word = new StringBuilder();
        for (int i = 0; i < ascii.length(); i++) {
            char c = ascii.charAt(i);
            if (!Character.isLetterOrDigit(c)) {
                end(word, words);
                continue;
            }
            boolean hump = i > 0
                    && Character.isUpperCase(c)
                    && (!Character.isUpperCase(ascii.charAt(i - 1))
                            || (i + 1 < ascii.length() && Character.isLowerCase(ascii.charAt(i + 1))));
            if (hump) {
                end(word, words);
            }
            word.append(c);
        }
        end(word, words);
        return words;
    }

    private static void end(StringBuilder word, List<String> words) {
        if (!word.isEmpty()) {
            words.add(word.toString());
            word.setLength(0);
        }
    }

    private static String ascii(String key) {
        if (key.chars().allMatch(c -> c < 0x80)) {
            return key;
        }
        StringBuilder ascii = new StringBuilder();
        synchronized (TO_ASCII) {
            key.codePoints().forEach(c -> {
                if (c < 0x80) {
                    ascii.appendCodePoint(c);
                } else {
                    String latin = TO_ASCII.transliterate(Character.toString(c));
                    boolean plain = !latin.isEmpty() && latin.chars().allMatch(one -> one < 0x80);
                    ascii.append(
                            plain
                                    ? latin
                                    : Character.isLetterOrDigit(c) || c > 0xFFFF ? "u" + Integer.toHexString(c) : " ");
                }
            });
        }
        return ascii.toString();
    }
}
