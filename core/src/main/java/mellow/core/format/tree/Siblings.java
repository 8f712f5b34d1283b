package mellow.core.format.tree;

import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.regex.Pattern;
import mellow.core.format.Habits;
import mellow.core.format.SiblingHabit;
import mellow.core.format.tree.Node.Kind;
import mellow.core.format.tree.Node.Mapping;
import mellow.core.format.tree.Node.Member;
import mellow.core.format.tree.Node.Scalar;
import mellow.core.format.tree.Node.Sequence;
import mellow.core.placeholder.Placeholder;
import mellow.core.placeholder.Placeholders;
import mellow.core.text.Text;

/**
 * Tells whether siblings by suffix, {@code car_one} and {@code car_other} or {@code car} and {@code car_plural}, are the forms of one text or labels that
 * happen to be called so. They are forms when one of them has a place for a number, when there are three of them or more, which nobody calls so by chance, or
 * when most of their like in the file are; else they are labels. Cost: one pass over the tree.
 */
final class Siblings {

    private static final Set<String> CATEGORIES = Set.of("zero", "one", "two", "few", "many", "other");
    private static final String PLURAL = "_plural";

    /** Names that placeholders for numbers have; a position or the type of a number says it as well. */
    private static final Pattern NUMBER = Pattern.compile(
            "(?i).*(count|num|amount|total|quantity|size|[{(]n[)}]|[{(]x[)}]|\\b\\d+\\b).*|%[^@sScC]*[diouxXeEfFgG]");

    private final Optional<SiblingHabit> chosen;
    private int sure;
    private int all;
    private String example = "";

    private Siblings(Optional<SiblingHabit> chosen) {
        this.chosen = chosen;
    }

    /**
     * Looks at a whole tree.
     *
     * @param chosen what somebody said
     */
    static Siblings of(Mapping tree, Optional<SiblingHabit> chosen) {
        Siblings siblings = new Siblings(chosen);
        siblings.look(tree);
        return siblings;
    }

    private void look(Node node) {
        if (node instanceof Sequence sequence) {
            sequence.items().forEach(this::look);
        } else if (node instanceof Mapping mapping) {
            for (Map<String, Integer> group : candidates(mapping).values()) {
                all++;
                sure += shows(mapping, group) ? 1 : 0;
                example = example.isEmpty()
                        ? mapping.members()
                                .get(Objects.requireNonNull(group.get(Text.OTHER)))
                                .key()
                        : example;
            }
            mapping.members().forEach(member -> look(member.value()));
        }
    }

    /** How the file was understood: nothing when it has no such siblings. */
    Habits habits() {
        if (all == 0) {
            return Habits.NONE;
        }
        if (chosen.isPresent()) {
            return Habits.ofSiblings(chosen.get(), Habits.CHOSEN);
        }
        return sure > 0
                ? Habits.ofSiblings(
                        SiblingHabit.FORMS,
                        "Keys that end like “" + example + "” are the forms of one text: " + sure + " of " + all
                                + " have a place for a number, or three forms and more.")
                : Habits.ofSiblings(
                        SiblingHabit.LABELS,
                        "Keys that end like “" + example + "” are texts of their own: none of " + all
                                + " has a place for a number.");
    }

    /** Groups of siblings that are the forms of one text, form to index, under the index of their first member. */
    Map<Integer, Map<String, Integer>> groups(Mapping mapping) {
        Map<Integer, Map<String, Integer>> groups = candidates(mapping);
        groups.values().removeIf(group -> !areForms(mapping, group));
        return groups;
    }

    private boolean areForms(Mapping mapping, Map<String, Integer> group) {
        return chosen.map(habit -> habit == SiblingHabit.FORMS)
                .orElseGet(() -> 2 * sure > all || shows(mapping, group));
    }

    private boolean shows(Mapping mapping, Map<String, Integer> group) {
        boolean several = group.size() > 2;
        return several
                || group.values().stream()
                        .map(index -> ((Scalar) mapping.members().get(index).value()).text())
                        .anyMatch(Siblings::hasNumber);
    }

    private static boolean hasNumber(String text) {
        return Placeholders.COMMON.in(text).stream()
                .anyMatch(found -> found.kind() != Placeholder.Kind.TAG
                        && NUMBER.matcher(found.spelled()).matches());
    }

    private static Map<Integer, Map<String, Integer>> candidates(Mapping mapping) {
        Map<String, Integer> places = new HashMap<>();
        for (int i = 0; i < mapping.members().size(); i++) {
            places.put(mapping.members().get(i).key(), i);
        }
        Map<String, Map<String, Integer>> byStem = new LinkedHashMap<>();
        for (Member member : mapping.members()) {
            int underscore = member.key().lastIndexOf('_');
            if (underscore <= 0 || !isText(member)) {
                continue;
            }
            String suffix = member.key().substring(underscore + 1);
            String stem = member.key().substring(0, underscore);
            Integer bare = places.get(stem);
            if (CATEGORIES.contains(suffix) && bare == null) {
                byStem.computeIfAbsent(stem, any -> new TreeMap<>()).put(suffix, places.get(member.key()));
            } else if (("_" + suffix).equals(PLURAL)
                    && bare != null
                    && isText(mapping.members().get(bare))) {
                byStem.put(stem, new TreeMap<>(Map.of("one", bare, Text.OTHER, places.get(member.key()))));
            }
        }
        Map<Integer, Map<String, Integer>> groups = new HashMap<>();
        for (Map<String, Integer> group : byStem.values()) {
            if (group.size() > 1 && group.containsKey(Text.OTHER)) {
                groups.put(group.values().stream().min(Integer::compare).orElseThrow(), group);
            }
        }
        return groups;
    }

    private static boolean isText(Member member) {
        return member.value() instanceof Scalar scalar && scalar.kind() != Kind.OTHER;
    }

    /** The key that siblings by suffix share. */
    static String stem(String key) {
        int underscore = key.lastIndexOf('_');
        boolean suffixed =
                underscore > 0 && (CATEGORIES.contains(key.substring(underscore + 1)) || key.endsWith(PLURAL));
        return suffixed ? key.substring(0, underscore) : key;
    }
}
