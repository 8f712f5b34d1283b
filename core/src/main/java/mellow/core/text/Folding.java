package mellow.core.text;

import java.text.Normalizer;

/**
 * Folds texts so that people find them however they spell accents: marks over Latin, Greek, Cyrillic, Arabic and Hebrew letters go (NFKD, then without
 * nonspacing marks), letters that only look combined ("ø", "ł", "ß") become what people type for them. Case is left alone: the search ignores it.
 */
public final class Folding {

    /** Below this code point nothing is ever folded. */
    private static final int FIRST_FOLDED = 0x80;

    private static final int KANA_VOICED = 0x3099;
    private static final int KANA_HALF_VOICED = 0x309A;

    private Folding() {}

    /** {@code text} without accents, the same object when it has none. */
    public static String fold(String text) {
        return isAscii(text) ? text : foldSlowly(text);
    }

    private static boolean isAscii(String text) {
        for (int i = 0; i < text.length(); i++) {
            if (text.charAt(i) >= FIRST_FOLDED) {
                return false;
            }
        }
        return true;
    }

    private static String foldSlowly(String text) {
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
