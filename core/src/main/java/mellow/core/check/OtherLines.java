package mellow.core.check;

import java.util.List;

/** A form of another number of lines than its source. */
final class OtherLines implements Check {

    @Override
    public void lookAt(Inspected.Form form, List<Finding> found) {
        int lines = TooManyLines.linesOf(form.text());
        int ofSource = TooManyLines.linesOf(form.source());
        if (lines != ofSource && !form.source().isEmpty() && !TooManyLines.in(form)) {
            found.add(Finding.warning(
                    "other-lines",
                    form.name(),
                    "The source has " + ofSource + (ofSource == 1 ? " line" : " lines") + ", this text " + lines
                            + "."));
        }
    }
}
