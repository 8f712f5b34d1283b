package mellow.core.check;

import java.util.List;

/** Spaces at the ends of a text that its source has otherwise. */
final class OuterSpaces implements Check {

    @Override
    public void lookAt(Inspected.Form form, List<Finding> found) {
        String source = form.source();
        String text = form.text();
        int start = leading(text);
        int end = trailing(text);
        if (!text.substring(0, start).equals(source.substring(0, leading(source)))) {
            found.add(Finding.warning("outer-space", form.name(), spaces("begins", start > 0))
                    .at(0, start));
        }
        if (start < text.length() && !text.substring(end).equals(source.substring(trailing(source)))) {
            found.add(Finding.warning("outer-space", form.name(), spaces("ends", end < text.length()))
                    .at(end, text.length()));
        }
    }

    private static String spaces(String where, boolean has) {
        return "The text " + where + (has ? " with" : " without") + " a space, other than the source.";
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
