package mellow.core.check;

import java.util.Map;

/**
 * Another mark at the end than the source's. Marks are compared by what they do in their script: the Greek question mark is a semicolon, the Arabic one is
 * turned, Japanese stops are round, French has a space before. Abbreviations and titles end as they do.
 */
final class EndingCheck implements Check {

    /** A text of fewer words is a title or an abbreviation, in which a stop says nothing. */
    private static final int SENTENCE = 4;

    private enum Mark {
        NONE(""),
        STOP("a full stop"),
        QUESTION("a question mark"),
        EXCLAMATION("an exclamation mark"),
        COLON("a colon"),
        ELLIPSIS("three dots"),
        COMMA("a comma"),
        SEMICOLON("a semicolon");

        private final String named;

        Mark(String named) {
            this.named = named;
        }
    }

    @Override
    public void lookAt(Form form, Found found) {
        if (!form.comparable() || form.message() != null) {
            return;
        }
        int sourceEnd = end(form.source());
        int textEnd = end(form.text());
        if (sourceEnd == 0 || textEnd == 0) {
            return;
        }
        Facts facts = form.ground().facts();
        Mark asked = mark(form.source(), sourceEnd, form.ground().source());
        Mark given = mark(form.text(), textEnd, facts);
        if (asked != given && !excused(form, asked, given)) {
            tell(form, asked, given, textEnd, found);
        } else if (textEnd < form.text().stripTrailing().length()) {
            // In brackets or quotation marks it is part of another sentence.
            return;
        } else if (asked == Mark.QUESTION && facts.among("es") && form.text().indexOf('¿') < 0) {
            found.add("ending-pair", form.name(), "A question begins with “¿” in Spanish.");
        } else if (asked == Mark.EXCLAMATION
                && given == asked
                && facts.among("es")
                && form.text().indexOf('¡') < 0) {
            found.add("ending-pair", form.name(), "An exclamation begins with “¡” in Spanish.");
        }
    }

    private static void tell(Form form, Mark asked, Mark given, int textEnd, Found found) {
        String sentence = given == Mark.NONE
                ? "The source ends with {asked}, this text does not."
                : asked == Mark.NONE
                        ? "This text ends with {given}, the source does not."
                        : "The source ends with {asked}, this text with {given}.";
        String usual = given == Mark.NONE ? usual(asked, form.ground().facts()) : "";
        String text = form.text();
        found.add(
                "ending-differs",
                form.name(),
                sentence,
                Map.of("asked", asked.named, "given", given.named),
                textEnd - 1,
                textEnd,
                usual.isEmpty() || !Character.isLetterOrDigit(text.codePointBefore(textEnd))
                        ? null
                        : new Mend(
                                "End it with “" + usual.strip() + "”",
                                text.substring(0, textEnd) + usual + text.substring(textEnd)));
    }

    /** Where the other mark is right. */
    private static boolean excused(Form form, Mark asked, Mark given) {
        Facts facts = form.ground().facts();
        boolean unmarked = facts.among("th", "lo", "km", "my");
        if (unmarked && given == Mark.NONE) {
            return true;
        }
        if (asked == Mark.STOP && given == Mark.NONE) {
            return words(form.source()) < SENTENCE;
        }
        if (asked == Mark.NONE && given == Mark.STOP) {
            return words(form.text()) < SENTENCE && facts.spaced();
        }
        if (facts.among("hy") && asked == Mark.QUESTION) {
            return form.text().indexOf('՞') >= 0;
        }
        if (facts.among("hy") && asked == Mark.EXCLAMATION) {
            return form.text().indexOf('՜') >= 0;
        }
        // Exclamations are a habit of English that many languages leave to their readers.
        return (asked == Mark.EXCLAMATION && given == Mark.STOP) || (asked == Mark.STOP && given == Mark.EXCLAMATION);
    }

    private static int words(String text) {
        int words = 0;
        boolean inside = false;
        for (int at = 0; at < text.length(); at++) {
            boolean space = Character.isWhitespace(text.charAt(at));
            if (!space && !inside) {
                words++;
            }
            inside = !space;
        }
        return words;
    }

    /** After the last character that is neither space, quotation mark, bracket nor the end of a tag. */
    private static int end(String text) {
        int at = text.length();
        while (at > 0) {
            char c = text.charAt(at - 1);
            if (c == '>') {
                int open = text.lastIndexOf('<', at - 1);
                if (open < 0) {
                    return at;
                }
                at = open;
            } else if (Character.isWhitespace(c)
                    || Character.isSpaceChar(c)
                    || "\"'»«”“’‘„)]）】」』›‹".indexOf(c) >= 0
                    || (c >= '\u200E' && c <= '\u200F')
                    || (c >= '\u202A' && c <= '\u202E')
                    || (c >= '\u2066' && c <= '\u2069')) {
                at--;
            } else {
                return at;
            }
        }
        return 0;
    }

    private static Mark mark(String text, int end, Facts facts) {
        char c = text.charAt(end - 1);
        if (quoted(text, end)) {
            return Mark.NONE;
        }
        return switch (c) {
            case '.', '．', '。' ->
                end >= 3 && text.charAt(end - 2) == c && text.charAt(end - 3) == c ? Mark.ELLIPSIS : Mark.STOP;
            case '｡', '।', '॥', '۔', '።', '։', '។', '။' -> Mark.STOP;
            case '?', '？', '؟', '፧', '\u037E' -> Mark.QUESTION;
            case ';' -> facts.among("el") ? Mark.QUESTION : Mark.SEMICOLON;
            case '；', '؛' -> Mark.SEMICOLON;
            case '·' -> facts.among("el") ? Mark.SEMICOLON : Mark.NONE;
            case '!', '！' -> Mark.EXCLAMATION;
            case ':', '：', '፦' -> Mark.COLON;
            case '…', '⋯', '᠁' -> Mark.ELLIPSIS;
            case ',', '，', '、', '،', '፣' -> Mark.COMMA;
            default -> Mark.NONE;
        };
    }

    /** Whether the mark itself is what is spoken of: {@code Expected ":"}. */
    private static boolean quoted(String text, int end) {
        int before = end - 2;
        while (before >= 0 && Character.isSpaceChar(text.charAt(before))) {
            before--;
        }
        int after = end;
        while (after < text.length() && Character.isSpaceChar(text.charAt(after))) {
            after++;
        }
        return before >= 0
                && after < text.length()
                && "\"'`«“„‘”‚「".indexOf(text.charAt(before)) >= 0
                && "\"'»”“’‘」".indexOf(text.charAt(after)) >= 0;
    }

    private static String usual(Mark mark, Facts facts) {
        boolean wide = facts.among("ja", "zh", "yue");
        boolean arabic = facts.among("ar", "fa", "ps", "ug", "sd");
        return switch (mark) {
            case STOP ->
                wide
                        ? "。"
                        : facts.among("hi", "bn", "ne", "mr")
                                ? "।"
                                : facts.among("ur") ? "۔" : facts.among("hy") ? "։" : facts.among("am") ? "።" : ".";
            case QUESTION ->
                wide
                        ? "？"
                        : arabic || facts.among("ur")
                                ? "؟"
                                : facts.among("el")
                                        ? ";"
                                        : facts.among("fr") ? "\u202F?" : facts.among("hy") ? "" : "?";
            case EXCLAMATION -> wide ? "！" : facts.among("fr") ? "\u202F!" : facts.among("hy") ? "" : "!";
            case COLON -> wide ? "：" : facts.among("fr") ? "\u00A0:" : ":";
            case ELLIPSIS -> "…";
            default -> "";
        };
    }
}
