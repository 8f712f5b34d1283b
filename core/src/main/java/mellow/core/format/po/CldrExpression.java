package mellow.core.format.po;

import com.ibm.icu.text.PluralRules;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Spells the plural rules of CLDR (UTS #35 part 3, "Plural rules syntax") as an expression of C over a whole number {@code n}, where the operands
 * n and i are the number itself and v, w, f, t, c and e are 0.
 */
final class CldrExpression {

    private static final Pattern RELATION =
            Pattern.compile("([nivwftce])(?:\\s*%\\s*([0-9]+))?\\s*(!?=)\\s*([0-9.,\\s]+)");

    private CldrExpression() {}

    /** An expression that gives the place of a number's category in {@code categories}; the last one needs no rule. */
    static String of(PluralRules rules, List<String> categories) {
        Map<String, String> conditions = new HashMap<>();
        // "few: v = 0 and i % 10 = 2..4 @integer …; one: i = 1 and v = 0"
        for (String rule : rules.toString().split(";")) {
            int colon = rule.indexOf(':');
            if (colon > 0
                    && categories.contains(rule.substring(0, colon).strip())
                    && !rule.strip().startsWith("other")) {
                conditions.put(rule.substring(0, colon).strip(), condition(rule.substring(colon + 1)));
            }
        }
        StringBuilder expression = new StringBuilder();
        for (int i = 0; i < categories.size() - 1; i++) {
            expression
                    .append('(')
                    .append(conditions.getOrDefault(categories.get(i), "0"))
                    .append(") ? ")
                    .append(i)
                    .append(" : ");
        }
        return expression.append(categories.size() - 1).toString();
    }

    /** One rule, its samples left out. */
    private static String condition(String rule) {
        String bare = rule.contains("@") ? rule.substring(0, rule.indexOf('@')) : rule;
        List<String> either = new ArrayList<>();
        for (String alternative : bare.split("\\bor\\b")) {
            List<String> all = new ArrayList<>();
            boolean never = false;
            for (String relation : alternative.split("\\band\\b")) {
                String spelled = relation(relation.strip());
                never |= spelled.equals("0");
                if (!spelled.equals("1")) {
                    all.add(spelled);
                }
            }
            if (!never) {
                either.add(all.isEmpty() ? "1" : String.join(" && ", all));
            }
        }
        if (either.isEmpty()) {
            return "0";
        }
        return either.size() == 1 ? either.get(0) : "(" + String.join(") || (", either) + ")";
    }

    private static String relation(String relation) {
        Matcher parts = RELATION.matcher(relation);
        if (!parts.matches()) {
            throw new IllegalArgumentException("a plural rule that is not understood: " + relation);
        }
        boolean number = parts.group(1).equals("n") || parts.group(1).equals("i");
        String operand = number ? "n" : "0";
        if (parts.group(2) != null && number) {
            operand = "n%" + parts.group(2);
        }
        boolean negated = parts.group(3).equals("!=");
        List<String> ranges = new ArrayList<>();
        for (String range : parts.group(4).split(",")) {
            String[] ends = range.strip().split("\\.\\.");
            if (!number) {
                boolean holds = Integer.parseInt(ends[0].strip()) == 0;
                ranges.add(holds ? "1" : "0");
            } else if (ends.length == 1) {
                ranges.add(operand + (negated ? " != " : " == ") + ends[0].strip());
            } else {
                ranges.add(
                        negated
                                ? "(" + operand + " < " + ends[0] + " || " + operand + " > " + ends[1] + ")"
                                : "(" + operand + " >= " + ends[0] + " && " + operand + " <= " + ends[1] + ")");
            }
        }
        if (!number) {
            return ranges.contains("1") != negated ? "1" : "0";
        }
        if (ranges.size() == 1) {
            return ranges.get(0);
        }
        return "(" + String.join(negated ? " && " : " || ", ranges) + ")";
    }
}
