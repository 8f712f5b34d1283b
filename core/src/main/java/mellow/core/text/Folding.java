package mellow.core.text;

import java.text.Normalizer;

/**
 * Folds texts so that people find them however they spell accents: marks over Latin, Greek, Cyrillic, Arabic and Hebrew letters go (NFKD, then without
 * nonspacing marks), letters that only look combined ("ø", "ł", "ß") become what people type for them. Case is left alone: the search ignores it.
 */
public final class Folding {

    /** Below this code point nothing is ever folded. */
    private static final int FIRST_FOLDED = 0x80;

    /**
     * Where a letter folds the same whatever stands beside it: Latin to Arabic, more Latin, punctuation, currencies, kana without marks of their own.
     * Elsewhere, as in Hangul and the scripts of India, two that are left when the marks are gone may go together.
     */
    private static final int[][] ALONE_IN = {
        {FIRST_FOLDED, 0x8FF}, {0x1E00, 0x1EFF}, {0x2000, 0x206F}, {0x20A0, 0x20CF}, {0x3041, 0x3096}, {0x30A1, 0x30FC}
    };

    private static final int LAST_ALONE = 0x30FC;
    private static final int FIRST_IDEOGRAPH = 0x4E00;
    private static final int LAST_IDEOGRAPH = 0x9FFF;
    private static final int KANA_VOICED = 0x3099;
    private static final int KANA_HALF_VOICED = 0x309A;

    /** What each letter becomes that can be folded alone; null for the others. */
    private static final String[] ALONE = new String[LAST_ALONE + 1];

    static {
        for (int[] range : ALONE_IN) {
            for (int c = range[0]; c <= range[1]; c++) {
                ALONE[c] = foldTogether(String.valueOf((char) c));
            }
        }
    }

    private Folding() {}

    /** {@code text} without accents, the same object when it has none. */
    public static String fold(String text) {
        for (int i = 0; i < text.length(); i++) {
            if (text.charAt(i) >= FIRST_FOLDED) {
                return foldFrom(i, text);
            }
        }
        return text;
    }

    /**
     * Letter by letter, many times as fast as two normalisations. The first letter that cannot be folded alone hands the whole text to
     * {@link #foldTogether}.
     */
    private static String foldFrom(int first, String text) {
        StringBuilder folded = null;
        for (int i = first; i < text.length(); i++) {
            char c = text.charAt(i);
            boolean same = c < FIRST_FOLDED || (c >= FIRST_IDEOGRAPH && c <= LAST_IDEOGRAPH);
            String letter = same || c > LAST_ALONE ? null : ALONE[c];
            if (!same && letter == null) {
                return foldTogether(text);
            }
            same = letter == null || (letter.length() == 1 && letter.charAt(0) == c);
            if (!same && folded == null) {
                folded = new StringBuilder(text.length() + 2).append(text, 0, i);
            }
            if (folded != null) {
                if (same) {
                    folded.append(c);
                } else {
                    folded.append(letter);
                }
            }
        }
        return folded == null ? text : folded.toString();
    }

    /** The plain way, for every text. */
    static String foldTogether(String text) {
        String apart = Normalizer.normalize(text, Normalizer.Form.NFKD);
        StringBuilder folded = new StringBuilder(apart.length());
        for (int i = 0; i < apart.length(); i++) {
            char c = apart.charAt(i);
            boolean kana = c == KANA_VOICED || c == KANA_HALF_VOICED;
            if (kana || Character.getType(c) != Character.NON_SPACING_MARK) {
                append(folded, c);
            }
        }
        // Kana and Hangul are one character for people; only marks that are accents are gone.
        String result = Normalizer.normalize(folded, Normalizer.Form.NFC);
        return result.equals(text) ? text : result;
    }

    private static void append(StringBuilder folded, char c) {
        switch (c) {
            case 'ø' -> folded.append('o');
            case 'Ø' -> folded.append('O');
            case 'ł' -> folded.append('l');
            case 'Ł' -> folded.append('L');
            case 'đ' -> folded.append('d');
            case 'Đ' -> folded.append('D');
            case 'ı' -> folded.append('i');
            case 'æ' -> folded.append("ae");
            case 'Æ' -> folded.append("AE");
            case 'œ' -> folded.append("oe");
            case 'Œ' -> folded.append("OE");
            case 'ß' -> folded.append("ss");
            case 'ـ' -> {
                // A tatweel only stretches a word.
            }
            default -> folded.append(c);
        }
    }
}
