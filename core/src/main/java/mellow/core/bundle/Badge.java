package mellow.core.bundle;

import java.util.Locale;

/**
 * How far a language is, as a small picture (SVG 1.1): a strip like a ruled line of a ledger, filled as far as its texts are, with its name and the share in words for those
 * who do not see it.
 */
public final class Badge {

    private static final int HEIGHT = 24;
    private static final int BAR = 64;
    private static final int GAP = 8;
    /** What a character takes at most of what badges name, at 12 pixels in whatever font there is. */
    private static final int NARROW = 8;

    private static final int WIDE = 13;
    private static final int SHARE = 46;
    private static final int FIRST_WIDE = 0x1100;

    private Badge() {}

    /** Colours that are told apart by lightness too; ink and strip have, on the paper, a contrast of 4.5 at least for words, 3 for strips (WCAG 2.2 §1.4.3, §1.4.11). */
    public enum Theme {
        /** For light pages. */
        LIGHT("#fbfaf5", "#26313b", "#d9d4c3", "#1f6f78"),
        /** For dark ones. */
        DARK("#1b2228", "#ece7d8", "#3a444d", "#6cc4c0");

        private final String paper;
        private final String ink;
        private final String ruled;
        private final String filled;

        Theme(String paper, String ink, String ruled, String filled) {
            this.paper = paper;
            this.ink = ink;
            this.ruled = ruled;
            this.filled = filled;
        }

        /** Its custom properties (CSS Custom Properties 1 §2). */
        public String css() {
            return "--paper:" + paper + ";--ink:" + ink + ";--ruled:" + ruled + ";--filled:" + filled;
        }
    }

    /** Whole percent of {@code all}, never more than there is: 100 is said of all alone, and 0 of none alone. */
    public static int percent(long there, long all) {
        if (all <= 0 || there >= all) {
            return 100;
        }
        return there <= 0 ? 0 : (int) Math.max(1, Math.floorDiv(100 * there, all));
    }

    /**
     * The picture.
     *
     * @param name of the language
     * @param percent 0 to 100
     */
    public static String svg(String name, int percent, Theme theme) {
        int text = name.codePoints().map(c -> c < FIRST_WIDE ? NARROW : WIDE).sum();
        int bar = GAP + text + GAP;
        int width = bar + BAR + GAP + SHARE;
        return String.format(
                Locale.ROOT,
                """
                <svg xmlns="http://www.w3.org/2000/svg" width="%1$d" height="%2$d" viewBox="0 0 %1$d %2$d" role="img" aria-label="%3$s: %4$d %%">
                <title>%3$s: %4$d %%</title>
                <rect width="%1$d" height="%2$d" rx="3" fill="%5$s"/>
                <g font-family="system-ui,sans-serif" font-size="12" fill="%6$s"><text x="%7$d" y="16" unicode-bidi="plaintext">%3$s</text><text x="%8$d" y="16" font-weight="600">%4$d %%</text></g>
                <path d="M%9$d 17.5h%10$d" stroke="%11$s" stroke-width="3"/><path d="M%9$d 17.5h%12$d" stroke="%13$s" stroke-width="3"/>
                </svg>
                """,
                width,
                HEIGHT,
                escaped(name),
                percent,
                theme.paper,
                theme.ink,
                GAP,
                bar + BAR + GAP,
                bar,
                BAR,
                theme.ruled,
                BAR * percent / 100,
                theme.filled);
    }

    /** Text as it stands in markup and in attributes between double quotes (XML 1.0 §2.4); characters that XML has not are left out (§2.2). */
    public static String escaped(String text) {
        StringBuilder escaped = new StringBuilder();
        text.codePoints()
                .filter(c -> c >= ' ' && c != 0xfffe && c != 0xffff && !(c >= 0xd800 && c <= 0xdfff))
                .forEach(c -> {
                    switch (c) {
                        case '&' -> escaped.append("&amp;");
                        case '<' -> escaped.append("&lt;");
                        case '>' -> escaped.append("&gt;");
                        case '"' -> escaped.append("&quot;");
                        default -> escaped.appendCodePoint(c);
                    }
                });
        return escaped.toString();
    }
}
