package mellow.core.text;

import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** The places in a sentence that is told to people with its values: "There is no table “{table}”." */
public final class Places {

    private static final Pattern PLACE = Pattern.compile("\\{(\\w+)\\}");

    private Places() {}

    /**
     * A sentence with its places filled. A value that reads like a place is not filled in turn.
     *
     * @param values by the names of the places; what no place names is left aside, and a place without a value stays
     */
    public static String filled(String sentence, Map<String, ?> values) {
        if (values.isEmpty() || sentence.indexOf('{') < 0) {
            return sentence;
        }
        return PLACE.matcher(sentence).replaceAll(place -> {
            String name = place.group(1);
            return Matcher.quoteReplacement(
                    values.containsKey(name) ? String.valueOf(values.get(name)) : place.group());
        });
    }
}
