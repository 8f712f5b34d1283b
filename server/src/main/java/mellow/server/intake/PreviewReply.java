package mellow.server.intake;

import java.util.List;
import java.util.Locale;
import java.util.Map;
import mellow.core.format.FileText;
import mellow.core.merge.Arrival;
import mellow.core.merge.Change;
import mellow.core.merge.ChangeKind;
import mellow.core.merge.Choice;
import mellow.core.text.Keepable;
import mellow.server.common.TextColumns;
import org.jspecify.annotations.Nullable;

/**
 * What a file would do, or did.
 *
 * @param groups what happens, grouped; groups of zero are absent
 * @param settled texts that come in force as settled
 * @param offered texts that become offers
 * @param pencilled texts that come in force as drafts
 * @param stale texts that go stale, by language
 * @param languages what became of the texts of each language, in a report; null in a preview
 * @param unchanged entries that the file leaves as they are
 * @param problems what is wrong with the file, as sentences
 * @param problemCount number of problems, those not listed included
 */
record PreviewReply(
        List<Group> groups,
        int settled,
        int offered,
        int pencilled,
        Map<String, Integer> stale,
        @Nullable Map<String, Came> languages,
        int unchanged,
        List<String> problems,
        int problemCount) {

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

    private static final int LONGEST_SHOWN = 2_000;

    static PreviewReply of(
            List<Group> groups,
            Map<Arrival, Integer> arrivals,
            Map<String, Integer> stale,
            @Nullable Map<String, Came> languages,
            int unchanged,
            IntakeRead file) {
        return new PreviewReply(
                groups,
                arrivals.getOrDefault(Arrival.SETTLED, 0),
                arrivals.getOrDefault(Arrival.OFFERED, 0),
                arrivals.getOrDefault(Arrival.PENCILLED, 0),
                stale,
                languages,
                unchanged,
                file.problems(),
                file.problemCount());
    }

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
     * One change.
     *
     * @param n its number within its kind, 0-based
     * @param key the entry's key in the file
     * @param formerKey the key that the entry has in the record, where it is another
     * @param language the language concerned, null for the source
     * @param source the source that the text is for, null for changes of entries and sources
     * @param before what the record says
     * @param beforeForms its forms, null for a plain text
     * @param after what the file says
     * @param afterForms its forms, null for a plain text
     * @param choice what was decided
     * @param becomes what becomes of the file's text: settled, pencilled, offered; null where nothing does
     * @param stale languages whose texts go stale if the source changes its meaning
     * @param texts number of texts that come along with a new entry
     */
    record Line(
            int n,
            String key,
            @Nullable String formerKey,
            @Nullable String language,
            @Nullable String source,
            @Nullable String before,
            @Nullable Map<String, String> beforeForms,
            @Nullable String after,
            @Nullable Map<String, String> afterForms,
            Choice choice,
            @Nullable String becomes,
            List<String> stale,
            int texts) {

        static Line of(int n, Change change) {
            Arrival arrives = change.arrives();
            return new Line(
                    n,
                    change.id().key(),
                    change.formerKey(),
                    change.language() == null ? null : change.language().value(),
                    change.language() == null ? null : shown(change.source()),
                    shown(change.before()),
                    TextColumns.shown(TextColumns.formsOrNull(change.before().forms())),
                    shown(change.after()),
                    TextColumns.shown(TextColumns.formsOrNull(change.after().forms())),
                    change.choice(),
                    arrives == null ? null : arrives.name().toLowerCase(Locale.ROOT),
                    List.of(),
                    0);
        }
    }

    /** The main form, cut where it is too long for a list; null for no text. */
    static @Nullable String shown(FileText text) {
        String main = text.main();
        return main.isEmpty() ? null : Keepable.shown(main, LONGEST_SHOWN);
    }
}
