package mellow.server.intake;

import com.fasterxml.jackson.annotation.JsonUnwrapped;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.stream.Collectors;
import mellow.core.check.Finding;
import mellow.core.format.FileText;
import mellow.core.language.LanguageTag;
import mellow.core.merge.Arrival;
import mellow.core.merge.Change;
import mellow.core.merge.ChangeKind;
import mellow.core.merge.Choice;
import mellow.core.text.Keepable;
import mellow.server.common.TextColumns;
import org.jspecify.annotations.Nullable;

/**
 * What a file would do, or did; its sums and problems are flat on the wire.
 *
 * @param groups what happens, grouped; groups of zero are absent
 * @param stale texts that go stale, by language
 * @param languages what became of the texts of each language, in a report; null in a preview
 * @param unchanged entries that the file leaves as they are
 */
record PreviewReply(
        List<Group> groups,
        @JsonUnwrapped Arrivals arrivals,
        Map<String, Integer> stale,
        @Nullable Map<String, Came> languages,
        int unchanged,
        @JsonUnwrapped ProblemList wrong) {

    /**
     * How many texts come how.
     *
     * @param settled texts that come in force as settled
     * @param offered texts that become offers
     * @param pencilled texts that come in force as drafts
     */
    record Arrivals(int settled, int offered, int pencilled) {

        static Arrivals of(Map<Arrival, Integer> counted) {
            return new Arrivals(
                    counted.getOrDefault(Arrival.SETTLED, 0),
                    counted.getOrDefault(Arrival.OFFERED, 0),
                    counted.getOrDefault(Arrival.PENCILLED, 0));
        }
    }

    /**
     * What became of the texts of a language that a file brought.
     *
     * @param kept texts that were left out
     */
    record Came(int settled, int offered, int pencilled, int kept) {

        static final Came NOTHING = new Came(0, 0, 0, 0);

        Came and(@Nullable Arrival how) {
            return how == null
                    ? new Came(settled, offered, pencilled, kept + 1)
                    : switch (how) {
                        case SETTLED -> new Came(settled + 1, offered, pencilled, kept);
                        case OFFERED -> new Came(settled, offered + 1, pencilled, kept);
                        case PENCILLED -> new Came(settled, offered, pencilled + 1, kept);
                    };
        }
    }

    /** How many lines of a group a report keeps. */
    static final int SHOWN = 200;

    /** Sentences about one text that are told in a list. */
    private static final int MOST_AGAINST = 5;

    private static final int LONGEST_SHOWN = 2_000;

    /**
     * A kind of change.
     *
     * @param kind its stable name
     * @param count how many there are
     * @param chosen how many of them are decided how
     * @param choices what can be done about each
     * @param usual what is done about those that nobody decided
     * @param lines the first {@value #SHOWN} of them in a report; none in a preview, which is asked for its lines apart
     */
    record Group(
            ChangeKind kind,
            int count,
            Map<Choice, Integer> chosen,
            List<Choice> choices,
            Choice usual,
            List<Line> lines) {}

    /**
     * One change; its parts are flat on the wire.
     *
     * @param n its number within its kind, 0-based
     */
    record Line(
            int n,
            @JsonUnwrapped Of of,
            @JsonUnwrapped Before was,
            @JsonUnwrapped After comes,
            @JsonUnwrapped Outcome outcome) {

        /**
         * What a change is of.
         *
         * @param key the entry's key in the file
         * @param formerKey the key that the entry has in the record, where it is another
         * @param language the language concerned, null for the source
         * @param source the source that the text is for, null for changes of entries and sources
         */
        record Of(String key, @Nullable String formerKey, @Nullable String language, @Nullable String source) {}

        /**
         * What the record says.
         *
         * @param beforeForms its forms, null for a plain text
         */
        record Before(@Nullable String before, @Nullable Map<String, String> beforeForms) {}

        /**
         * What the file says.
         *
         * @param afterForms its forms, null for a plain text
         */
        record After(@Nullable String after, @Nullable Map<String, String> afterForms) {}

        /**
         * What is done.
         *
         * @param choice what was decided
         * @param becomes what becomes of the file's text: settled, pencilled, offered; null where nothing does
         * @param stale languages whose texts go stale if the source changes its meaning
         * @param texts number of texts that come along with a new entry
         * @param against sentences about what keeps the file's text from being settled, null where nothing does
         */
        record Outcome(
                Choice choice, @Nullable String becomes, List<String> stale, int texts, @Nullable String against) {}

        static Line of(int n, Change change) {
            LanguageTag tag = change.language();
            Arrival arrives = change.arrives();
            return new Line(
                    n,
                    new Of(
                            change.id().key(),
                            change.formerKey(),
                            tag == null ? null : tag.value(),
                            tag == null ? null : shown(change.source())),
                    new Before(
                            shown(change.before()),
                            TextColumns.shown(
                                    TextColumns.formsOrNull(change.before().forms()))),
                    new After(
                            shown(change.after()),
                            TextColumns.shown(
                                    TextColumns.formsOrNull(change.after().forms()))),
                    new Outcome(
                            change.choice(),
                            arrives == null ? null : arrives.name().toLowerCase(Locale.ROOT),
                            List.of(),
                            0,
                            against(change)));
        }
    }

    /** What stands against settling a text, in sentences; null for nothing. */
    static @Nullable String against(Change change) {
        return change.decided().against().isEmpty()
                ? null
                : change.decided().against().stream()
                        .map(Finding::sentence)
                        .distinct()
                        .limit(MOST_AGAINST)
                        .collect(Collectors.joining(" "));
    }

    /** The main form, cut where it is too long for a list; null for no text. */
    static @Nullable String shown(FileText text) {
        String main = text.main();
        return main.isEmpty() ? null : Keepable.shown(main, LONGEST_SHOWN);
    }
}
