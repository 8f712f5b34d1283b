package mellow.core.check;

import java.util.List;
import java.util.Map;
import mellow.core.text.Shape;
import mellow.core.text.Text;

/** Plural categories of the language, or states of the source, without a text; and forms that the language does not use. */
final class FormsCheck implements Check {

    @Override
    public void lookAt(Inspected text, Found found) {
        if (text.measure().shape() == Shape.PLURAL) {
            Facts facts = text.ground().facts();
            List<String> missing = facts.categories().stream()
                    .filter(facts.required()::contains)
                    .filter(category -> !text.text().containsKey(category))
                    .toList();
            if (!missing.isEmpty()) {
                found.add(
                        "form-missing",
                        Text.OTHER,
                        "Without a text: {forms}.",
                        Map.of("forms", String.join(", ", missing)));
            }
            text.text().keySet().stream()
                    .filter(category -> !facts.categories().contains(category))
                    .forEach(category -> found.add(
                            "form-extra",
                            category,
                            "The language has no form “{form}”; nobody would see it.",
                            Map.of("form", category)));
        } else if (text.measure().shape() == Shape.STATES) {
            List<String> missing = text.measure().source().keySet().stream()
                    .filter(state -> !text.text().containsKey(state))
                    .toList();
            if (!missing.isEmpty()) {
                found.add(
                        "form-missing",
                        missing.get(0),
                        "Without a text: state {states}.",
                        Map.of("states", String.join(", ", missing)));
            }
            if (!text.measure().source().isEmpty()) {
                text.text().keySet().stream()
                        .filter(state -> !text.measure().source().containsKey(state))
                        .forEach(state -> found.add(
                                "form-extra",
                                state,
                                "The source has no state {state}; nobody would see it.",
                                Map.of("state", state)));
            }
        }
    }
}
