package mellow.core.check;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.SortedMap;
import mellow.core.text.Shape;

/** All checks. They find nothing in assets. */
public final class Checks {

    /** A new check is a line here. What they find is told in this order, form by form. */
    private static final List<Check> ALL = List.of(
            new FormsMissing(),
            new MessageBroken(),
            new PlaceholdersDiffer(),
            new TooLong(),
            new TooManyLines(),
            new OtherLines(),
            new OuterSpaces(),
            new WordsToAvoid());

    private static final List<Check> BLOCKING =
            ALL.stream().filter(Check::blocks).toList();

    private static final Ground NO_GROUND = Ground.of(List.of());

    private Checks() {}

    /**
     * Everything found in a text.
     *
     * @param text the text by form, without empty forms
     */
    public static List<Finding> of(Measure measure, SortedMap<String, String> text, Ground ground) {
        return measure.shape() == Shape.ASSET || text.isEmpty()
                ? List.of()
                : List.copyOf(found(ALL, new Inspected(measure, text, ground)));
    }

    /** What stands against settling a text: the blockers of {@link #of}, found without looking for anything else. */
    public static List<Finding> blockers(Measure measure, SortedMap<String, String> text) {
        return measure.shape() == Shape.ASSET ? List.of() : found(BLOCKING, new Inspected(measure, text, NO_GROUND));
    }

    private static List<Finding> found(List<Check> checks, Inspected text) {
        List<Finding> found = new ArrayList<>(0);
        for (Check check : checks) {
            check.lookAt(text, found);
        }
        for (Map.Entry<String, String> form : text.text().entrySet()) {
            Inspected.Form one = text.form(form.getKey(), form.getValue());
            for (Check check : checks) {
                check.lookAt(one, found);
            }
        }
        return found;
    }
}
