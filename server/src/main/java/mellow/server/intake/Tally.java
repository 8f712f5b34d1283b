package mellow.server.intake;

import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import mellow.core.merge.Arrival;
import mellow.core.merge.Change;
import mellow.core.merge.ChangeKind;
import mellow.core.merge.Choice;
import mellow.core.merge.Comparison;
import mellow.core.merge.RecordEntry;
import mellow.core.merge.Untouched;
import mellow.server.intake.PreviewReply.Arrivals;
import mellow.server.intake.PreviewReply.Came;
import mellow.server.intake.PreviewReply.Group;
import mellow.server.intake.PreviewReply.Line;

/** Counts what is done and keeps the first lines of each kind: the report of an intake, exact because it counts what is carried out. */
final class Tally implements Comparison.Listener {

    private final Map<ChangeKind, List<Line>> lines = new EnumMap<>(ChangeKind.class);
    private final Map<ChangeKind, Map<Choice, Integer>> counts = new EnumMap<>(ChangeKind.class);
    private final Map<Arrival, Integer> arrivals = new EnumMap<>(Arrival.class);
    private final Map<String, Came> languages = new TreeMap<>();
    private final Untouched untouched = new Untouched();

    @Override
    public void met(int index, RecordEntry entry) {
        untouched.met(index);
    }

    @Override
    public void change(Change change) {
        if (change.choice() != Choice.KEEP) {
            untouched.touched(change.index());
        }
        counts.computeIfAbsent(change.kind(), kind -> new EnumMap<>(Choice.class))
                .merge(change.choice(), 1, Integer::sum);
        Arrival arrives = change.arrives();
        if (arrives != null) {
            arrivals.merge(arrives, 1, Integer::sum);
        }
        if (change.language() != null) {
            languages.merge(change.language().value(), Came.NOTHING.and(arrives), (before, one) -> before.and(arrives));
        }
        List<Line> shown = lines.computeIfAbsent(change.kind(), kind -> new ArrayList<>());
        if (shown.size() < PreviewReply.SHOWN) {
            shown.add(Line.of(shown.size(), change));
        }
    }

    /** Whether there was any change of that kind, done or not. */
    boolean met(ChangeKind kind) {
        return counts.containsKey(kind);
    }

    /** The report; {@code stale} tells what went stale by language. */
    PreviewReply reply(IntakeRead file, Map<String, Integer> stale) {
        List<Group> groups = new ArrayList<>();
        counts.forEach((kind, choices) -> groups.add(new Group(
                kind,
                choices.values().stream().mapToInt(Integer::intValue).sum(),
                choices,
                kind.choices(),
                kind.choices().get(0),
                lines.getOrDefault(kind, List.of()))));
        return new PreviewReply(
                groups, Arrivals.of(arrivals), stale, languages, untouched.count(), ProblemList.of(file));
    }
}
