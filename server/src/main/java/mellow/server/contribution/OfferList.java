package mellow.server.contribution;

import com.fasterxml.jackson.annotation.JsonUnwrapped;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;
import mellow.core.cell.Offer.Answer;
import mellow.core.language.LanguageTag;
import mellow.server.common.Coded;
import mellow.server.common.Refusal;
import mellow.server.common.TextColumns;
import mellow.server.language.LanguageService;
import mellow.server.people.PeopleService;
import mellow.server.people.Rights;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** What a person offered, with what became of each, and what they have pencilled and not put forward. */
@Service
public class OfferList {

    /** As many as a page of the screen asks for. */
    static final int PAGE = 50;

    /** More drafts than that are work for the ledger, which shows any number. */
    private static final int MOST_DRAFTS = 200;

    private static final String OFFERS = Coded.sql(
            """
            select o.id, o.entry_id, l.tag, t.slug, t.name table_name, e.key, e.source, e.source_forms, e.shape, e.max_length, o.text, o.forms, o.note,
                o.origin, o.answer, o.by_rule, o.offered_time, o.answered_time, b.name answered_by, o.reason, o.changed, o.changed_of,
                coalesce(c.version, 0) version, a.after amended, a.after_forms amended_forms, e.removed_at is null and t.removed_at is null present,
                o.answer = {answer.returned} and c.state = {state.returned} and not exists (select 1 from offer n
                    where n.entry_id = o.entry_id and n.language_id = o.language_id and n.answer <> {answer.withdrawn} and n.opened_version > o.opened_version) came_back
            from offer o join entry e on e.id = o.entry_id join ledger_table t on t.id = e.table_id join language l on l.id = o.language_id
            join cell c on c.entry_id = o.entry_id and c.language_id = o.language_id
            left join person b on b.id = o.answered_by
            left join lateral (select s.after, s.after_forms from cell_story s
                where o.answer = {answer.amended} and s.entry_id = o.entry_id and s.language_id = o.language_id and s.offer_id = o.id and s.what = 'amended'
                order by s.id desc limit 1) a on true
            where o.author_id = :author and o.language_id = any(:languages) and (:answer < 0 or o.answer = :answer) and (:after = 0 or o.id < :after)
            order by o.id desc limit :most
            """);
    /** How many there are of each kind. */
    private static final String COUNTS =
            "select answer, count(*) from offer where author_id = :author and language_id = any(:languages) group by answer";

    private static final String DRAFTS = Coded.sql(
            """
            select c.entry_id, l.tag, t.slug, t.name table_name, e.key, e.source, e.source_forms, e.shape, c.text, c.forms, c.version, c.changed_at
            from cell c join entry e on e.id = c.entry_id and e.removed_at is null join ledger_table t on t.id = e.table_id and t.removed_at is null
            join language l on l.id = c.language_id
            where c.state = {state.pencilled} and c.language_id = any(:languages) and c.author_id = :author and c.origin in ('typed', 'pasted', 'undo')
            order by c.changed_at desc limit :most
            """);

    private final LanguageService languages;
    private final PeopleService people;
    private final JdbcClient jdbc;

    OfferList(LanguageService languages, PeopleService people, JdbcClient jdbc) {
        this.languages = languages;
        this.people = people;
        this.jdbc = jdbc;
    }

    /**
     * The text that an offer or a draft is for; flat on the wire.
     *
     * @param table its table's name in addresses
     */
    public record Place(
            long entry,
            String language,
            String table,
            String tableName,
            String key,
            String source,
            @Nullable Map<String, String> sourceForms,
            String shape) {

        private static Place of(ResultSet row) throws SQLException {
            return new Place(
                    row.getLong("entry_id"),
                    row.getString("tag"),
                    row.getString("slug"),
                    row.getString("table_name"),
                    row.getString("key"),
                    row.getString("source"),
                    TextColumns.shown(row.getString("source_forms")),
                    row.getString("shape"));
        }
    }

    /**
     * An offer and what became of it.
     *
     * @param answer open, settled, amended, returned, set_aside or withdrawn
     * @param byRule whether a standing rule settled it
     * @param said what its author said with it, empty for nothing
     * @param byMachine whether a machine's or the memory's text was put forward as it was
     * @param reason why it was returned
     * @param amended the text that was put in force instead
     * @param changed characters that amending changed
     * @param changedOf of so many
     * @param cameBack whether it was returned and nothing newer has come in its place
     * @param version the cell's version, to be sent with a change
     * @param present false when its entry or table was removed
     */
    public record OfferLine(
            long offer,
            @JsonUnwrapped Place place,
            int maxLength,
            String text,
            @Nullable Map<String, String> forms,
            String said,
            boolean byMachine,
            String answer,
            boolean byRule,
            Instant at,
            @Nullable Instant answeredAt,
            @Nullable String answeredBy,
            @Nullable String reason,
            @Nullable String amended,
            @Nullable Map<String, String> amendedForms,
            @Nullable Integer changed,
            @Nullable Integer changedOf,
            boolean cameBack,
            int version,
            boolean present) {}

    /**
     * A page of offers, the newest first.
     *
     * @param counts how many there are of each answer
     * @param next the offer after which the next page begins, null when there is none
     */
    public record Offers(List<OfferLine> offers, Map<String, Integer> counts, @Nullable Long next) {}

    /** A pencilled text of one's own. */
    public record Draft(
            @JsonUnwrapped Place place, String text, @Nullable Map<String, String> forms, int version, Instant at) {}

    /**
     * What {@code author} offered, as far as {@code me} may see it.
     *
     * @param in only this language
     * @param answer only with this answer; empty for all
     * @param after only older ones than this offer; 0 for the newest
     */
    @Transactional(readOnly = true)
    public Offers offers(long me, long author, @Nullable LanguageTag in, String answer, long after) {
        Integer[] numbers = visible(me, author, in);
        List<OfferLine> found = jdbc.sql(OFFERS)
                .param("author", author)
                .param("languages", numbers)
                .param("answer", answer.isEmpty() ? -1 : answer(answer).ordinal())
                .param("after", after)
                .param("most", PAGE + 1)
                .query((row, n) -> new OfferLine(
                        row.getLong("id"),
                        Place.of(row),
                        row.getInt("max_length"),
                        row.getString("text"),
                        TextColumns.shown(row.getString("forms")),
                        row.getString("note"),
                        List.of("memory", "draft").contains(row.getString("origin")),
                        word(row.getInt("answer")),
                        row.getBoolean("by_rule"),
                        row.getTimestamp("offered_time").toInstant(),
                        row.getTimestamp("answered_time") == null
                                ? null
                                : row.getTimestamp("answered_time").toInstant(),
                        row.getString("answered_by"),
                        row.getInt("answer") == Answer.RETURNED.ordinal() ? row.getString("reason") : null,
                        row.getString("amended"),
                        TextColumns.shown(row.getString("amended_forms")),
                        row.getObject("changed", Integer.class),
                        row.getObject("changed_of", Integer.class),
                        row.getBoolean("came_back"),
                        row.getInt("version"),
                        row.getBoolean("present")))
                .list();
        Map<String, Integer> counts = new TreeMap<>();
        jdbc.sql(COUNTS).param("author", author).param("languages", numbers).query(row -> {
            counts.put(word(row.getInt(1)), row.getInt(2));
        });
        boolean more = found.size() > PAGE;
        List<OfferLine> page = more ? found.subList(0, PAGE) : found;
        return new Offers(page, counts, more ? page.get(PAGE - 1).offer() : null);
    }

    /** Texts that {@code me} pencilled and has not put forward, the newest first. */
    @Transactional(readOnly = true)
    public List<Draft> drafts(long me) {
        return jdbc.sql(DRAFTS)
                .param("author", me)
                .param("languages", visible(me, me, null))
                .param("most", MOST_DRAFTS)
                .query((row, n) -> new Draft(
                        Place.of(row),
                        row.getString("text"),
                        TextColumns.shown(row.getString("forms")),
                        row.getInt("version"),
                        row.getTimestamp("changed_at").toInstant()))
                .list();
    }

    private Integer[] visible(long me, long author, @Nullable LanguageTag in) {
        Rights rights = people.rights(me);
        Integer[] numbers = (in == null ? languages.all() : List.of(in))
                .stream()
                        .filter(tag -> author == me || rights.reviews(tag))
                        .flatMap(tag -> languages.known(tag).stream())
                        .toArray(Integer[]::new);
        if (numbers.length == 0 && author != me) {
            throw ContributionService.notYours();
        }
        return numbers;
    }

    private static String word(int answer) {
        return Answer.values()[answer].name().toLowerCase(Locale.ROOT);
    }

    private static Answer answer(String word) {
        for (Answer answer : Answer.values()) {
            if (word(answer.ordinal()).equals(word)) {
                return answer;
            }
        }
        throw Refusal.unacceptable(
                "unknown-answer", "“{said}” is nothing that becomes of an offer.", Map.of("said", word));
    }
}
