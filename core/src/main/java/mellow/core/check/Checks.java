package mellow.core.check;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.SortedMap;
import java.util.TreeMap;
import java.util.stream.Collectors;
import mellow.core.asset.AssetFacts;
import mellow.core.text.Shape;
import mellow.core.text.Text;
import org.jspecify.annotations.Nullable;

/**
 * Asks every {@link Kind} about a text. What is found is told in the order of kinds. Assets are asked about {@linkplain #ofAsset by what their files are}. Takes time
 * linear in the text.
 */
public final class Checks {

    private static final Kind[] KINDS = Kind.values();

    private Checks() {}

    /**
     * Everything found in a text. A mend is among it only where the text, mended, has that finding no more and no new one.
     *
     * @param text the text by form, without empty forms
     */
    public static List<Finding> of(Measure measure, SortedMap<String, String> text, Ground ground) {
        List<Finding> found = raw(measure, text, ground);
        return found.stream().anyMatch(finding -> finding.mend() != null)
                ? proved(found, measure, text, ground)
                : List.copyOf(found);
    }

    /** What stands against settling a text: the blockers of {@link #of}. */
    public static List<Finding> blockers(Measure measure, SortedMap<String, String> text, Ground ground) {
        return raw(measure, text, ground).stream().filter(Finding::blocks).toList();
    }

    /** Everything found in a text, quicker than {@link #of}: mends are not proved. */
    public static List<Finding> found(Measure measure, SortedMap<String, String> text, Ground ground) {
        return raw(measure, text, ground);
    }

    /**
     * Everything found in a source by itself.
     *
     * @param key the entry's key
     */
    public static List<Finding> ofSource(Measure measure, String key, Ground ground) {
        if (measure.shape() == Shape.ASSET) {
            return List.of();
        }
        Found found = new Found();
        Inspected source = new Inspected(measure, measure.source(), ground);
        List<Form> forms = new ArrayList<>();
        measure.source().forEach((name, words) -> forms.add(source.form(name, words)));
        if (forms.isEmpty()) {
            forms.add(source.form(Text.OTHER, ""));
        }
        for (Kind kind : KINDS) {
            Weight weight = ground.weight(kind);
            if (weight != Weight.OFF) {
                found.asking(kind, weight);
                forms.forEach(form -> kind.check().lookAtSource(form, found));
            }
        }
        if (ground.weight(Kind.KEY) != Weight.OFF) {
            found.asking(Kind.KEY, ground.weight(Kind.KEY));
            KeyCheck.lookAt(key, ground, found);
        }
        return found.all().stream().map(Finding::withoutMend).toList();
    }

    /**
     * Everything found in a picture or sound.
     *
     * @param source what that of the source is, null when there is none or nobody knows
     * @param name its file's name
     * @param file what it is
     */
    public static List<Finding> ofAsset(@Nullable AssetFacts source, String name, AssetFacts file, Ground ground) {
        Found found = new Found();
        Weight weight = ground.weight(Kind.ASSET);
        if (weight != Weight.OFF) {
            found.asking(Kind.ASSET, weight);
            AssetCheck.lookAt(source, name, file, found);
        }
        return found.all();
    }

    private static List<Finding> raw(Measure measure, SortedMap<String, String> text, Ground ground) {
        if (measure.shape() == Shape.ASSET || text.isEmpty()) {
            return List.of();
        }
        Inspected inspected = new Inspected(measure, text, ground);
        List<Form> forms = new ArrayList<>(text.size());
        text.forEach((name, words) -> forms.add(inspected.form(name, words)));
        Found found = new Found();
        for (Kind kind : KINDS) {
            Weight weight = ground.weight(kind);
            if (weight == Weight.OFF) {
                continue;
            }
            found.asking(kind, weight);
            Check check = kind.check();
            check.lookAt(inspected, found);
            for (Form form : forms) {
                check.lookAt(form, found);
            }
        }
        return found.all();
    }

    /** Leaves out mends that would not help: the only judge of a mend is what is found afterwards. */
    private static List<Finding> proved(
            List<Finding> found, Measure measure, SortedMap<String, String> text, Ground ground) {
        Map<String, Long> before = counted(found);
        List<Finding> proved = new ArrayList<>(found.size());
        for (Finding finding : found) {
            Mend mend = finding.mend();
            if (mend == null) {
                proved.add(finding);
                continue;
            }
            SortedMap<String, String> mended = new TreeMap<>(text);
            mended.put(finding.form(), mend.text());
            Map<String, Long> after = counted(raw(measure, mended, ground));
            String own = name(finding);
            boolean helps =
                    after.getOrDefault(own, 0L) < before.getOrDefault(own, 0L) && fewer(after, before, before.keySet());
            proved.add(helps ? finding : finding.withoutMend());
        }
        return List.copyOf(proved);
    }

    private static boolean fewer(Map<String, Long> after, Map<String, Long> before, Set<String> known) {
        return after.entrySet().stream()
                .allMatch(
                        one -> known.contains(one.getKey()) && one.getValue() <= before.getOrDefault(one.getKey(), 0L));
    }

    private static Map<String, Long> counted(List<Finding> found) {
        return found.stream().collect(Collectors.groupingBy(Checks::name, Collectors.counting()));
    }

    private static String name(Finding finding) {
        return finding.code() + " " + finding.form();
    }
}
