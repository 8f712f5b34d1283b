package mellow.core.check;

import mellow.core.fit.Face;
import mellow.core.fit.Face.Laid;

/** Longer than there is place: in characters and lines, in pixels of the product's font, and beside the source. */
final class LengthCheck implements Check {

    /** Shorter sources grow more than any factor says. */
    private static final int SHORT = 10;

    @Override
    public void lookAt(Form form, Found found) {
        place(form, found);
        double factor = form.ground().settings().lengthFactor();
        int ofSource = length(form.source());
        if (factor > 0 && ofSource >= SHORT && length(form.text()) > factor * ofSource) {
            found.add(
                    "too-long-beside-source",
                    form.name(),
                    length(form.text()) + " characters, and more than " + (int) (factor * ofSource)
                            + " are too many for a source of " + ofSource + ".");
        }
    }

    @Override
    public void lookAtSource(Form source, Found found) {
        place(source, found);
    }

    private static void place(Form form, Found found) {
        String text = form.text();
        int most = form.measure().maxLength();
        if (most > 0 && text.length() > most) {
            int length = length(text);
            if (length > most) {
                found.add(
                        "too-long",
                        form.name(),
                        length + " characters, and " + most + " are allowed.",
                        text.offsetByCodePoints(0, most),
                        text.length());
            }
        }
        int mostLines = form.measure().maxLines();
        if (tooManyLines(form)) {
            found.add(
                    "too-many-lines",
                    form.name(),
                    lines(text) + " lines, and " + mostLines + (mostLines == 1 ? " is" : " are") + " allowed.");
        }
        if (form.measure().maxWidth() > 0) {
            for (Face face : form.ground().faces()) {
                wide(form, face, found);
            }
        }
    }

    private static void wide(Form form, Face face, Found found) {
        int width = form.measure().maxWidth();
        int lines = Math.max(1, form.measure().maxLines());
        Laid laid = face.lay(form.text(), width, form.ground().facts().locale());
        if (laid.widest() > width) {
            found.add(
                    "too-wide",
                    form.name(),
                    "Too wide by " + (laid.widest() - width) + " pixels in " + face.name() + ": " + laid.widest()
                            + ", and the place has " + width + ".",
                    laid.start(),
                    laid.end());
        } else if (laid.lines() > lines) {
            found.add(
                    "too-wide",
                    form.name(),
                    "Takes " + laid.lines() + " lines of " + width + " pixels in " + face.name() + ", and " + lines
                            + (lines == 1 ? " is" : " are") + " there.",
                    laid.start(),
                    laid.end());
        }
    }

    private static int length(String text) {
        return text.codePointCount(0, text.length());
    }

    /** Whether it finds too many lines. */
    static boolean tooManyLines(Form form) {
        int most = form.measure().maxLines();
        return most > 0 && Traits.in(form.traits(), Traits.LINES) && lines(form.text()) > most;
    }

    static int lines(String text) {
        int lines = 1;
        for (int at = text.indexOf('\n'); at >= 0; at = text.indexOf('\n', at + 1)) {
            lines++;
        }
        return lines;
    }
}
