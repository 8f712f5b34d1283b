package mellow.core.merge;

import static mellow.core.merge.MergeFiles.ENGLISH;
import static mellow.core.merge.MergeFiles.GERMAN;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Set;
import mellow.core.check.Ground;
import mellow.core.format.EntryId;
import mellow.core.format.FileReading;
import mellow.core.language.LanguageTag;
import org.jspecify.annotations.Nullable;

/** A comparison under terms that a test changes one by one. */
final class Ask {
    private final FileReading now;
    private @Nullable FileReading before;
    private Set<LanguageTag> fourEyes = Set.of();
    private Set<LanguageTag> reviews = Set.of(GERMAN);
    private boolean coordinator = true;
    private boolean removes = true;
    private Set<EntryId> removed = Set.of();
    private Arrival arrival = Arrival.SETTLED;
    private Choices choices = Choices.NONE;
    final List<String> met = new ArrayList<>();
    Comparison comparison;

    Ask(FileReading now) {
        this.now = now;
    }

    Ask after(FileReading file) {
        before = file;
        return this;
    }

    Ask without(String key) {
        removed = Set.of(new EntryId(key, ""));
        return this;
    }

    Ask choosing(Choice choice) {
        choices = (kind, id, language) -> choice;
        return this;
    }

    Ask arriving(Arrival how) {
        arrival = how;
        return this;
    }

    Ask fourEyes() {
        fourEyes = Set.of(GERMAN);
        return this;
    }

    Ask asContributor() {
        coordinator = false;
        reviews = Set.of();
        return this;
    }

    Ask ofAPart() {
        removes = false;
        return this;
    }

    List<Change> changes(RecordEntry... record) {
        List<Change> changes = new ArrayList<>();
        comparison = new Comparison(
                now,
                before,
                new Terms(
                        ENGLISH,
                        Map.of(GERMAN, arrival),
                        new Terms.May(fourEyes, reviews, coordinator),
                        removes,
                        removed,
                        choices,
                        tag -> Ground.of(ENGLISH, tag)));
        Comparison.Listener listener = new Comparison.Listener() {

            @Override
            public void change(Change change) {
                changes.add(change);
            }

            @Override
            public void met(int index, RecordEntry entry) {
                met.add(entry.entryId().key() + "@" + index);
            }

            @Override
            public void alone(RecordEntry entry) {
                met.add(entry.entryId().key() + " alone");
            }
        };
        Arrays.stream(record).forEach(entry -> comparison.compare(entry, listener));
        comparison.rest(listener);
        return changes;
    }

    /** Kind, key, language, choice, and how the text arrives. */
    List<String> tells(RecordEntry... record) {
        return changes(record).stream()
                .map(change -> change.kind() + " " + change.id().key()
                        + (change.language() == null ? "" : " " + change.language()) + " " + change.choice()
                        + (change.arrives() == null ? "" : " " + change.arrives()))
                .toList();
    }
}
