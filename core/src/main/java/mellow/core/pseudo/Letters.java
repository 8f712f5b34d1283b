package mellow.core.pseudo;

import java.util.HashMap;
import java.util.Map;

/** What a pretend language does to the letters A to Z. Every letter can be told from what was made of it. */
public enum Letters {
    /** Nothing. */
    PLAIN,
    /** Accents, of which Latin-1 and Latin Extended-A have enough for most. */
    ACCENTED,
    /** Full-width forms, twice as wide as most. */
    WIDE,
    /** Marks below, which fonts of small devices seldom have. */
    MARKED;

    private static final String BARE = "acdeghijklnoprstuwyzACDEGHIJKLNOPRSTUWYZ";
    private static final String WITH_ACCENTS = "àçđéğĥîĵķļñöþřšťüŵýžÀÇĐÉĞĤÎĴĶĻÑÖÞŘŠŤÜŴÝŽ";
    private static final int WIDER = 0xFEE0;
    /** COMBINING RING BELOW. */
    private static final char MARK = '\u0325';

    private static final Map<Character, Character> ACCENTS = pairs(BARE, WITH_ACCENTS);
    private static final Map<Character, Character> WITHOUT = pairs(WITH_ACCENTS, BARE);

    private static Map<Character, Character> pairs(String from, String to) {
        Map<Character, Character> pairs = new HashMap<>();
        for (int i = 0; i < from.length(); i++) {
            pairs.put(from.charAt(i), to.charAt(i));
        }
        return Map.copyOf(pairs);
    }

    /** Appends what becomes of a character. */
    void append(char c, StringBuilder to) {
        switch (this) {
            case PLAIN -> to.append(c);
            case ACCENTED -> to.append(ACCENTS.getOrDefault(c, c).charValue());
            case WIDE -> to.append(latin(c) ? (char) (c + WIDER) : c);
            case MARKED -> {
                to.append(c);
                if (latin(c)) {
                    to.append(MARK);
                }
            }
        }
    }

    /** Whether a character of a source could be taken for something made here. */
    boolean looksMade(char c) {
        return switch (this) {
            case PLAIN -> false;
            case ACCENTED -> WITHOUT.containsKey(c);
            case WIDE -> c > WIDER && latin((char) (c - WIDER));
            case MARKED -> c == MARK;
        };
    }

    /** Appends what a character was made of, nothing for what was only added. */
    void appendSource(char c, StringBuilder to) {
        switch (this) {
            case PLAIN -> to.append(c);
            case ACCENTED -> to.append(WITHOUT.getOrDefault(c, c).charValue());
            case WIDE -> to.append(looksMade(c) ? (char) (c - WIDER) : c);
            case MARKED -> {
                if (c != MARK) {
                    to.append(c);
                }
            }
        }
    }

    private static boolean latin(char c) {
        return (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z');
    }
}
