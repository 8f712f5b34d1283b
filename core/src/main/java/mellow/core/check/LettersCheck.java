package mellow.core.check;

import java.util.LinkedHashSet;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import mellow.core.fit.Face;

/** Letters that a font or a character set of the product cannot show; people would see empty boxes. */
final class LettersCheck implements Check {

    private static final int MOST_NAMED = 10;

    @Override
    public void lookAt(Form form, Found found) {
        for (Face face : form.ground().faces()) {
            int first = face.firstLacking(form.text());
            if (first >= 0) {
                Set<Integer> lacking = new LinkedHashSet<>(face.lacking(form.text()));
                String named = lacking.stream()
                        .limit(MOST_NAMED)
                        .map(letter -> "“" + Character.toString(letter) + "”")
                        .collect(Collectors.joining(", "));
                found.add(
                        "letters-lacking",
                        form.name(),
                        lacking.size() > MOST_NAMED
                                ? "{font} has no {letters} and others; people would see empty boxes."
                                : "{font} has no {letters}; people would see empty boxes.",
                        Map.of("font", face.name(), "letters", named),
                        first,
                        first + Character.charCount(form.text().codePointAt(first)));
            }
        }
    }

    @Override
    public void lookAtSource(Form source, Found found) {
        lookAt(source, found);
    }
}
