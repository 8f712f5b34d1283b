package mellow.core.check;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import mellow.core.placeholder.Placeholders;
import mellow.core.text.Shape;
import mellow.core.text.Text;

/** Placeholders that a text lost or has too many. */
final class PlaceholdersDiffer implements Check {

    /** So many placeholders too many tell enough about one text. */
    private static final int MOST_TOLD = 50;

    @Override
    public boolean blocks() {
        return true;
    }

    /** In other than the main form a number may be said in words: "one", "both". */
    @Override
    public void lookAt(Inspected.Form form, List<Finding> found) {
        String source = form.source();
        String text = form.text();
        // In a message that cannot be read, everything would seem to be missing; without a source, everything too much.
        if (source.equals(text) || form.measure().sourceless() || form.broken()) {
            return;
        }
        Placeholders.Difference difference = Placeholders.COMMON.compare(source, text);
        boolean main = form.measure().shape() != Shape.PLURAL || form.name().equals(Text.OTHER);
        if (main && !difference.missing().isEmpty()) {
            found.add(Finding.blocker(
                    "placeholder-missing", form.name(), "Missing: " + String.join(", ", difference.missing()) + "."));
        }
        if (difference.extra().isEmpty()) {
            return;
        }
        Map<String, Integer> last = new HashMap<>();
        Placeholders.COMMON.in(text).forEach(one -> last.put(one.spelled(), one.start()));
        difference.extra().stream().limit(MOST_TOLD).forEach(extra -> {
            int at = last.getOrDefault(extra, -1);
            found.add(Finding.blocker("placeholder-extra", form.name(), extra + " is not in the source.")
                    .at(at, at < 0 ? -1 : at + extra.length()));
        });
    }
}
