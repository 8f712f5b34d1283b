package mellow.core.check;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/** Tags: missing, too many, unclosed, crossed, with other attributes, and those that are almost one. */
final class MarkupCheck implements Check {

    /** A text that lost more is another text, and each is looked for through all of it. */
    private static final int MOST_LOOKED_FOR = 10;

    @Override
    public void lookAt(Form form, Found found) {
        if (!form.anywhere(Traits.ANGLE)
                || form.measure().sourceless()
                || form.source().equals(form.text())) {
            return;
        }
        List<Tag> asked = Tag.in(form.source(), form.source());
        List<Tag> given = Tag.in(form.text(), form.source());
        if (asked.isEmpty() && Nesting.of(given).unclosed().size() == given.size()) {
            // None, or words in brackets that happen to be called like elements.
            return;
        }
        if (malformed(form, asked, given, found)) {
            return;
        }
        boolean nested = Nesting.of(asked).sound();
        Nesting nesting = Nesting.of(given);
        if (nested && nesting.unclosed().size() == 1 && nesting.stray().isEmpty() && !nesting.crossed()) {
            unclosed(form, nesting.unclosed().get(0), asked, found);
            return;
        }
        if (nested && nesting.crossed()) {
            Tag crossing = nesting.stray().isEmpty()
                    ? nesting.unclosed().get(0)
                    : nesting.stray().get(0);
            found.add(
                    "tag-crossed",
                    form.name(),
                    "{tag} closes across another tag; what is opened last is closed first.",
                    Map.of("tag", crossing.spelled()),
                    crossing.start(),
                    crossing.end());
            return;
        }
        counts(form, asked, given, found);
    }

    @Override
    public void lookAtSource(Form source, Found found) {
        if (Traits.in(source.traits(), Traits.ANGLE)) {
            Nesting nesting = Nesting.of(Tag.in(source.text(), source.text()));
            if (nesting.crossed()) {
                Tag crossing = nesting.stray().isEmpty()
                        ? nesting.unclosed().get(0)
                        : nesting.stray().get(0);
                found.add(
                        "tag-crossed",
                        source.name(),
                        "{tag} closes across another tag; what is opened last is closed first.",
                        Map.of("tag", crossing.spelled()),
                        crossing.start(),
                        crossing.end());
            }
        }
    }

    /** Spaces or full-width characters in a tag that is missing otherwise: {@code < b>}, {@code ＜b＞}, {@code </ b>}. */
    private static boolean malformed(Form form, List<Tag> asked, List<Tag> given, Found found) {
        if (!Traits.in(form.traits(), Traits.ANGLE | Traits.WIDE)) {
            return false;
        }
        Map<String, Integer> missing = new HashMap<>();
        asked.forEach(tag -> missing.merge(tag.identity(), 1, Integer::sum));
        given.forEach(tag -> missing.merge(tag.identity(), -1, Integer::sum));
        boolean any = false;
        String text = form.text();
        int looked = 0;
        for (Tag tag : asked) {
            if (missing.getOrDefault(tag.identity(), 0) <= 0 || looked++ >= MOST_LOOKED_FOR) {
                continue;
            }
            int[] place = Tag.almost(tag, text);
            if (place != null) {
                any = true;
                found.add(
                        "tag-malformed",
                        form.name(),
                        "“{said}” would be shown as it stands; it must be {tag}.",
                        Map.of("said", text.substring(place[0], place[1]), "tag", tag.spelled()),
                        place[0],
                        place[1],
                        Mend.replacing("Make it " + tag.spelled(), text, place[0], place[1], tag.spelled()));
                missing.merge(tag.identity(), -1, Integer::sum);
            }
        }
        return any;
    }

    private static void unclosed(Form form, Tag open, List<Tag> asked, Found found) {
        String closing = "</" + open.name() + ">";
        String text = form.text();
        // Only where the source closes it at its end too is it known where it ends here.
        boolean atEnd = !asked.isEmpty()
                && asked.get(asked.size() - 1).closing()
                && asked.get(asked.size() - 1).end() == form.source().length();
        found.add(
                "tag-unclosed",
                form.name(),
                "{tag} is not closed.",
                Map.of("tag", open.spelled()),
                open.start(),
                open.end(),
                atEnd ? new Mend("Close it at the end", text + closing) : null);
    }

    private static void counts(Form form, List<Tag> asked, List<Tag> given, Found found) {
        Map<String, Deque<Tag>> wanted = new LinkedHashMap<>();
        asked.forEach(tag -> wanted.computeIfAbsent(tag.identity(), identity -> new ArrayDeque<>())
                .add(tag));
        List<Tag> extra = new ArrayList<>();
        for (Tag tag : given) {
            Deque<Tag> same = wanted.get(tag.identity());
            if (same == null || same.isEmpty()) {
                extra.add(tag);
                continue;
            }
            Tag met = same.remove();
            attributes(form, met, tag, found);
        }
        for (Deque<Tag> left : wanted.values()) {
            for (Tag tag : left) {
                if (!tag.mayBeDropped()) {
                    found.add("tag-missing", form.name(), "The tag {tag} is missing.", Map.of("tag", tag.spelled()));
                }
            }
        }
        for (Tag tag : extra) {
            if (!tag.mayBeCloned(wanted.containsKey(tag.identity()))) {
                found.add(
                        "tag-extra",
                        form.name(),
                        "{tag} is not in the source.",
                        Map.of("tag", tag.spelled()),
                        tag.start(),
                        tag.end());
            }
        }
    }

    private static void attributes(Form form, Tag asked, Tag given, Found found) {
        Map<String, String> was = new TreeMap<>(asked.attributes());
        Map<String, String> is = new TreeMap<>(given.attributes());
        if (!was.equals(is)) {
            found.add(
                    "tag-changed",
                    form.name(),
                    "{tag} is {source} in the source.",
                    Map.of("tag", given.spelled(), "source", asked.spelled()),
                    given.start(),
                    given.end(),
                    asked.translatable()
                            ? null
                            : Mend.replacing(
                                    "Make it " + asked.spelled(),
                                    form.text(),
                                    given.start(),
                                    given.end(),
                                    asked.spelled()));
        }
    }
}
