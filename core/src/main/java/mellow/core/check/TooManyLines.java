package mellow.core.check;

import java.util.List;

/** A form of more lines than its entry allows. */
final class TooManyLines implements Check {

    @Override
    public boolean blocks() {
        return true;
    }

    @Override
    public void lookAt(Inspected.Form form, List<Finding> found) {
        int most = form.measure().maxLines();
        if (in(form)) {
            found.add(Finding.blocker(
                    "too-many-lines",
                    form.name(),
                    linesOf(form.text()) + " lines, and " + most + (most == 1 ? " is" : " are") + " allowed."));
        }
    }

    /** Whether it finds something. */
    static boolean in(Inspected.Form form) {
        int most = form.measure().maxLines();
        return most > 0 && linesOf(form.text()) > most;
    }

    static int linesOf(String text) {
        return 1 + (int) text.chars().filter(c -> c == '\n').count();
    }
}
