package mellow.core.set;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import mellow.core.check.Ground;
import mellow.core.format.EntryId;
import mellow.core.format.FileReading;
import mellow.core.format.FileText;
import mellow.core.language.LanguageTag;
import mellow.core.merge.Arrival;
import mellow.core.merge.Choices;
import mellow.core.merge.Comparison;
import mellow.core.merge.RecordEntry;
import mellow.core.merge.Revisions;
import mellow.core.merge.Terms;
import mellow.core.set.SetReading.Part;
import mellow.core.text.Shape;
import org.junit.jupiter.api.Test;

/** A set against the record: what only translations have, and what the file of the sources lost. */
class SetComparisonTest {

    private static final LanguageTag EN = new LanguageTag("en");
    private static final Terms TERMS = new Terms(
            EN,
            Map.of(new LanguageTag("de"), Arrival.SETTLED),
            new Terms.May(Set.of(), Set.of(), true),
            true,
            Set.of(),
            Choices.NONE,
            tag -> Ground.of(EN, tag));

    private static SetReading set(FileReading source, FileReading german) {
        return new SetReading(EN, List.of(new Part("en", source, true), new Part("de", german, false)));
    }

    private static RecordEntry entry(String key, String source) {
        return new RecordEntry(
                1,
                1,
                new EntryId(key, ""),
                new RecordEntry.Source(Shape.PLAIN, FileText.plain(source), new Revisions(1, 1), 1),
                new RecordEntry.About("", "", "", 0, 0, true),
                Map.of());
    }

    private static List<String> told(SetReading now, SetReading then, RecordEntry... record) {
        List<String> told = new ArrayList<>();
        Comparison comparison = new Comparison(now, then, TERMS);
        Comparison.Listener listener =
                change -> told.add(change.kind() + " " + change.id().key() + " " + change.choice());
        for (RecordEntry entry : record) {
            comparison.compare(entry, listener);
        }
        comparison.rest(listener);
        return told;
    }

    @Test
    void aMessageThatOnlyOldCataloguesHaveIsNoNewEntry() {
        SetReading now = set(
                SetFiles.bilingual("en", "en", "a|Open|"), SetFiles.bilingual("en", "de", "a|Open|Auf", "old|Old|Alt"));
        assertThat(told(now, null))
                .containsExactly("NEW_ENTRIES a TAKE", "TEXTS_ADDED a TAKE", "WITHOUT_SOURCE old KEEP");
    }

    @Test
    void whatTheSourceLostIsGoneThoughATranslationHasIt() {
        FileReading german = SetFiles.reading("de", "a=Auf", "b=Zu");
        SetReading then = set(SetFiles.reading("en", "a=Open", "b=Shut"), german);
        SetReading now = set(SetFiles.reading("en", "a=Open"), german);
        assertThat(told(now, then, entry("a", "Open"), entry("b", "Shut"))).contains("GONE_FROM_FILE b REMOVE");
    }

    @Test
    void whatTheSourceNeverHadIsNotGone() {
        FileReading german = SetFiles.reading("de", "a=Auf", "own=Eigen");
        SetReading then = set(SetFiles.reading("en", "a=Open"), german);
        assertThat(told(then, then, entry("a", "Open"), entry("own", "Made here")))
                .isEmpty();
    }
}
