package mellow.core.check;

import java.util.Map;

/** Spaces at the ends that the source has otherwise, spaces twice in a row, another number of lines. */
final class SpaceCheck implements Check {

    @Override
    public void lookAt(Form form, Found found) {
        if (form.source().isEmpty() || form.source().equals(form.text())) {
            return;
        }
        if (form.anywhere(Traits.LINES) && !LengthCheck.tooManyLines(form)) {
            lines(form, found);
        }
        if (!form.anywhere(Traits.SPACES)) {
            return;
        }
        ends(form, found);
        if (Traits.in(form.traits(), Traits.SPACES) && doubled(form.source()) < 0) {
            int at = doubled(form.text());
            if (at >= 0) {
                found.add(
                        "space-doubled",
                        form.name(),
                        "Two spaces in a row.",
                        Map.of(),
                        at,
                        at + 2,
                        new Mend("Make it one", single(form.text())));
            }
        }
    }

    private static void lines(Form form, Found found) {
        int lines = LengthCheck.lines(form.text());
        int ofSource = LengthCheck.lines(form.source());
        if (lines != ofSource) {
            found.add(
                    "other-lines",
                    form.name(),
                    ofSource == 1
                            ? "The source has one line, this text {lines}."
                            : "The source has {source} lines, this text {lines}.",
                    Map.of("source", ofSource, "lines", lines));
        }
    }

    private static void ends(Form form, Found found) {
        String source = form.source();
        String text = form.text();
        int start = leading(text);
        int end = trailing(text);
        String before = source.substring(0, leading(source));
        String after = source.substring(trailing(source));
        if (!text.substring(0, start).equals(before)) {
            found.add(
                    "outer-space",
                    form.name(),
                    spaces("begins", start > 0),
                    Map.of(),
                    0,
                    start,
                    new Mend(before.isEmpty() ? "Take it out" : "Put it in", before + text.substring(start)));
        }
        if (start < text.length() && !text.substring(end).equals(after)) {
            found.add(
                    "outer-space",
                    form.name(),
                    spaces("ends", end < text.length()),
                    Map.of(),
                    end,
                    text.length(),
                    new Mend(after.isEmpty() ? "Take it out" : "Put it in", text.substring(0, end) + after));
        }
    }

    private static String spaces(String where, boolean has) {
        return "The text " + where + (has ? " with" : " without") + " a space, other than the source.";
    }

    /** Where a second space follows a first inside the text; spaces that indent a line are meant. -1 for nowhere. */
    private static int doubled(String text) {
        int end = trailing(text);
        boolean indent = true;
        for (int at = 0; at + 1 < end; at++) {
            char c = text.charAt(at);
            indent = c == '\n' || (indent && space(c));
            if (!indent && c == ' ' && text.charAt(at + 1) == ' ') {
                return at;
            }
        }
        return -1;
    }

    private static String single(String text) {
        StringBuilder single = new StringBuilder(text.length());
        int end = trailing(text);
        boolean indent = true;
        for (int at = 0; at < text.length(); at++) {
            char c = text.charAt(at);
            indent = c == '\n' || (indent && space(c));
            if (indent || at >= end || c != ' ' || text.charAt(at - 1) != ' ') {
                single.append(c);
            }
        }
        return single.toString();
    }

    private static int leading(String text) {
        int at = 0;
        while (at < text.length() && space(text.charAt(at))) {
            at++;
        }
        return at;
    }

    private static int trailing(String text) {
        int at = text.length();
        while (at > 0 && space(text.charAt(at - 1))) {
            at--;
        }
        return at;
    }

    private static boolean space(char c) {
        return Character.isWhitespace(c) || Character.isSpaceChar(c);
    }
}
