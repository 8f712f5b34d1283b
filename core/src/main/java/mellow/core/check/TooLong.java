package mellow.core.check;

import java.util.List;

/** A form that is longer than its entry allows. */
final class TooLong implements Check {

    @Override
    public boolean blocks() {
        return true;
    }

    @Override
    public void lookAt(Inspected.Form form, List<Finding> found) {
        String text = form.text();
        int most = form.measure().maxLength();
        int length = text.codePointCount(0, text.length());
        if (most > 0 && length > most) {
            found.add(Finding.blocker("too-long", form.name(), length + " characters, and " + most + " are allowed.")
                    .at(text.offsetByCodePoints(0, most), text.length()));
        }
    }
}
