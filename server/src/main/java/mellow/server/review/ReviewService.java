package mellow.server.review;

import java.util.List;
import java.util.Map;
import mellow.core.language.LanguageTag;
import mellow.server.common.Coded;
import mellow.server.common.Refusal;
import mellow.server.language.LanguageService;
import mellow.server.review.Strips.Waiting;
import mellow.server.table.TableInfo;
import mellow.server.table.TableService;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Reads what waits for an answer in a language, with all that one needs to judge it. */
@Service
public class ReviewService {

    /** As many offers as a page of the screen asks for. */
    static final int PAGE = 100;

    /** So many of a contributor's last answers tell how their offers fare now; older ones tell how they began. */
    private static final int LAST_ANSWERS = 200;

    /**
     * Everybody whose offers wait in the tables, or were answered in the language, with what became of their last ones; those whose offers wait come
     * first. Walks from author to author in the index of answers, so that a million old answers cost nothing.
     */
    private static final String CONTRIBUTORS = Coded.sql(
            """
            with recursive author as (
                (select author_id id from offer where language_id = :language and answer in ({answer.settled}, {answer.amended}, {answer.returned}) and not by_rule order by author_id limit 1)
                union all
                select (select o.author_id from offer o where o.language_id = :language and o.answer in ({answer.settled}, {answer.amended}, {answer.returned}) and not o.by_rule
                    and o.author_id > author.id order by o.author_id limit 1)
                from author where id is not null),
            waiting as (
                select o.author_id, count(*) n from offer o join entry e on e.id = o.entry_id and e.removed_at is null
                where o.language_id = :language and o.answer = {answer.open} and o.author_id <> :me and e.table_id = any(:tables) group by 1),
            answered as (
                select author.id author_id, count(*) filter (where last.answer <> {answer.returned}) settled, count(*) filter (where last.answer = {answer.amended}) amended,
                    count(*) filter (where last.answer = {answer.returned}) returned
                from author cross join lateral (
                    select o.answer from offer o where o.language_id = :language and o.author_id = author.id and o.answer in ({answer.settled}, {answer.amended}, {answer.returned}) and not o.by_rule
                    order by o.answered_time desc limit :last) last
                where author.id <> :me group by 1)
            select p.id, p.name, coalesce(w.n, 0) waiting, coalesce(a.settled, 0) settled, coalesce(a.amended, 0) amended, coalesce(a.returned, 0) returned
            from waiting w full join answered a using (author_id) join person p on p.id = author_id
            order by (w.n is not null) desc, p.name, p.id
            """);

    private final TableService tables;
    private final LanguageService languages;
    private final Strips strips;
    private final JdbcClient jdbc;

    ReviewService(TableService tables, LanguageService languages, Strips strips, JdbcClient jdbc) {
        this.tables = tables;
        this.languages = languages;
        this.strips = strips;
        this.jdbc = jdbc;
    }

    /**
     * Somebody who offers texts in the language.
     *
     * @param waiting offers without an answer in the tables looked at
     * @param settled how many of their last answered offers in the language a reviewer settled, amended ones included; of {@value #LAST_ANSWERS} at most
     * @param amended of those, the ones that were changed first
     * @param returned offers that were sent back
     */
    public record Contributor(long id, String name, int waiting, int settled, int amended, int returned) {}

    /**
     * What waits.
     *
     * @param strips at most {@value #PAGE} that match from the place asked for, each with the other offers for its cell
     * @param next the place to ask for after these, null when there are no more
     * @param matching number of all that match
     * @param newest the highest number of an offer that matches; what is offered later was not seen yet
     */
    public record ReviewReply(
            List<Strip> strips, @Nullable Integer next, int matching, long newest, List<Contributor> contributors) {}

    /** The query for a language and names of tables in addresses, all when there are none. */
    ReviewQuery query(
            LanguageTag language,
            List<String> slugs,
            long person,
            int olderThanDays,
            ReviewQuery.Checked checks,
            ReviewQuery.Order order) {
        int number = languages
                .known(language)
                .orElseThrow(() -> Refusal.unacceptable(
                        "language-not-kept", "No table is kept in {language}.", Map.of("language", language)));
        List<Long> in = (slugs.isEmpty()
                        ? tables.all().stream().map(TableService.Listed::table)
                        : slugs.stream().map(tables::find))
                .map(TableInfo::id)
                .toList();
        return new ReviewQuery(language, number, in, person, olderThanDays, checks, order);
    }

    /**
     * What waits for {@code me}, whose own offers are left out.
     *
     * @param from the place to begin at, from 0
     */
    @Transactional(readOnly = true)
    public ReviewReply waiting(long me, ReviewQuery query, int from) {
        List<Contributor> contributors = jdbc.sql(CONTRIBUTORS)
                .param("language", query.number())
                .param("me", me)
                .param("last", LAST_ANSWERS)
                .param("tables", query.tables().toArray(Long[]::new))
                .query((row, n) -> new Contributor(
                        row.getLong("id"),
                        row.getString("name"),
                        row.getInt("waiting"),
                        row.getInt("settled"),
                        row.getInt("amended"),
                        row.getInt("returned")))
                .list();
        List<Waiting> all = strips.waiting(me, query);
        int start = Math.max(0, Math.min(from, all.size()));
        int end = Math.min(all.size(), start + PAGE);
        return new ReviewReply(
                strips.read(me, query, all.subList(start, end)),
                end < all.size() ? end : null,
                all.size(),
                all.stream().mapToLong(Waiting::offer).max().orElse(0),
                contributors);
    }
}
