package mellow.server.check;

import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.SortedMap;
import java.util.TreeMap;
import java.util.stream.Stream;
import mellow.core.asset.AssetFacts;
import mellow.core.check.Checks;
import mellow.core.check.Finding;
import mellow.core.check.Ground;
import mellow.core.check.Kind;
import mellow.core.check.Measure;
import mellow.core.check.Mend;
import mellow.core.text.Shape;
import mellow.core.text.Text;
import mellow.server.check.Exceptions.Allowed;
import mellow.server.file.AssetFactReader;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/**
 * Looks at texts that may not be in the record: typed ones, offers, texts of a file. What it finds is what {@link MaskKeeper} stores of them once they are, so
 * whoever asks whether a text may come into force gets one answer.
 */
@Component
public class Inspector {

    /** A text with more of them is damaged altogether, and somebody should read it. */
    private static final int MOST_MENDS = 20;

    private final JdbcClient jdbc;

    Inspector(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** Looks at many texts: what holds for a table and a language is read once. Needs a transaction around it. */
    public Look look() {
        return new Look();
    }

    /** Everything found in a picture or sound; nothing in a file that nobody knows. */
    static List<Finding> asset(
            Measure measure, SortedMap<String, String> text, Ground ground, Map<Long, AssetFacts> facts) {
        AssetFacts file = AssetFactReader.file(text).map(facts::get).orElse(null);
        AssetFacts source =
                AssetFactReader.file(measure.source()).map(facts::get).orElse(null);
        return file == null ? List.of() : Checks.ofAsset(source, text.getOrDefault(Text.OTHER, ""), file, ground);
    }

    /** Which cell a text is for. */
    public record Place(long entry, long table, int language) {}

    /** A look at texts, of any tables and languages. */
    public final class Look {

        private final Grounds grounds = new Grounds(jdbc);
        private Allowed allowed = Allowed.NONE;

        private Look() {}

        /** Says of which language the texts are, so that what people found right about them is known. */
        public Look about(int language) {
            allowed = new Exceptions(jdbc).ofLanguage(language);
            return this;
        }

        /** Says which entries come next, so that what people found right about their texts is known. */
        public Look about(Collection<Long> entries) {
            allowed = new Exceptions(jdbc).of(entries.toArray(Long[]::new));
            return this;
        }

        /**
         * Everything that is found in a text and that nobody said is right.
         *
         * @param text the text by form, without empty forms
         */
        public List<Finding> at(Place place, Measure measure, SortedMap<String, String> text) {
            Ground ground = ground(place.table(), place.language());
            return allowed.without(
                    measure.shape() == Shape.ASSET ? asset(measure, text, ground) : Checks.of(measure, text, ground),
                    place.entry(),
                    place.language(),
                    measure.source(),
                    text);
        }

        /** Everything that is found in a source by itself. */
        public List<Finding> atSource(Place place, Measure measure, String key) {
            return allowed.without(
                    Checks.ofSource(measure, key, ground(place.table(), place.language())),
                    place.entry(),
                    place.language(),
                    measure.source(),
                    measure.source());
        }

        /** Whether somebody said of a text, as it is, that this kind of finding is right in it. */
        public boolean right(Kind kind, Place place, Measure measure, SortedMap<String, String> text) {
            return allowed.holds(kind, place.entry(), place.language(), measure.source(), text);
        }

        /**
         * A text with all that is sure to mend of a kind mended, one after the other.
         *
         * @param labels takes what was done
         */
        public SortedMap<String, String> mended(
                Kind kind, Place place, Measure measure, SortedMap<String, String> text, Set<String> labels) {
            SortedMap<String, String> mended = new TreeMap<>(text);
            for (int i = 0; i < MOST_MENDS; i++) {
                Optional<Finding> next = at(place, measure, mended).stream()
                        .filter(finding -> finding.kind() == kind && finding.mend() != null)
                        .findFirst();
                if (next.isEmpty()) {
                    break;
                }
                Mend mend = Objects.requireNonNull(next.get().mend());
                mended.put(next.get().form(), mend.text());
                labels.add(mend.label());
            }
            return mended;
        }

        /** What of it stops the text. */
        public List<Finding> blockers(Place place, Measure measure, SortedMap<String, String> text) {
            Ground ground = ground(place.table(), place.language());
            List<Finding> blockers = measure.shape() == Shape.ASSET
                    ? asset(measure, text, ground).stream()
                            .filter(Finding::blocks)
                            .toList()
                    : Checks.blockers(measure, text, ground);
            return allowed.without(blockers, place.entry(), place.language(), measure.source(), text);
        }

        private List<Finding> asset(Measure measure, SortedMap<String, String> text, Ground ground) {
            List<Long> files = Stream.of(measure.source(), text)
                    .map(AssetFactReader::file)
                    .flatMap(Optional::stream)
                    .toList();
            return Inspector.asset(measure, text, ground, new AssetFactReader(jdbc).of(files));
        }

        Grounds grounds() {
            return grounds;
        }

        /** What a table's texts in a language are looked at by. */
        public Ground ground(long table, int language) {
            return grounds.of(table, language);
        }
    }
}
