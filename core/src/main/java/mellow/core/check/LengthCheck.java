package mellow.core.check;

import java.util.Map;
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
                    "{length} characters, and more than {most} are too many for a source of {source}.",
                    Map.of("length", length(form.text()), "most", (int) (factor * ofSource), "source", ofSource));
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
                        "{length} characters, and {most} are allowed.",
                        Map.of("length", length, "most", most),
                        text.offsetByCodePoints(0, most),
                        text.length());
            }
        }
        int mostLines = form.measure().maxLines();
        if (tooManyLines(form)) {
            found.add(
                    "too-many-lines",
                    form.name(),
                    mostLines == 1 ? "{lines} lines, and one is allowed." : "{lines} lines, and {most} are allowed.",
                    Map.of("lines", lines(text), "most", mostLines));
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
                    "Too wide by {by} pixels in {font}: {width}, and the place has {most}.",
                    Map.of("by", laid.widest() - width, "font", face.name(), "width", laid.widest(), "most", width),
                    laid.start(),
                    laid.end());
        } else if (laid.lines() > lines) {
            found.add(
                    "too-wide",
                    form.name(),
                    lines == 1
                            ? "Takes {lines} lines of {width} pixels in {font}, and one is there."
                            : "Takes {lines} lines of {width} pixels in {font}, and {most} are there.",
                    Map.of("lines", laid.lines(), "width", width, "font", face.name(), "most", lines),
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
