package mellow.core.check;

import java.util.List;
import mellow.core.text.Shape;
import mellow.core.text.Text;

/** A plural category of the language, or a state of the source, without a text. */
final class FormsMissing implements Check {

    @Override
    public void lookAt(Inspected text, List<Finding> found) {
        if (text.measure().shape() == Shape.PLURAL) {
            List<String> missing = text.ground().categories().stream()
                    .filter(category -> !text.text().containsKey(category))
                    .toList();
            if (!missing.isEmpty()) {
                found.add(Finding.warning(
                        "form-missing", Text.OTHER, "Without a text: " + String.join(", ", missing) + "."));
            }
        } else if (text.measure().shape() == Shape.STATES) {
            List<String> missing = text.measure().source().keySet().stream()
                    .filter(state -> !text.text().containsKey(state))
                    .toList();
            if (!missing.isEmpty()) {
                found.add(Finding.warning(
                        "form-missing", missing.get(0), "Without a text: state " + String.join(", ", missing) + "."));
            }
        }
    }
}
