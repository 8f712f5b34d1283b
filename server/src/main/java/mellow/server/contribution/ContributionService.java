package mellow.server.contribution;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import mellow.core.language.LanguageTag;
import mellow.server.common.Coded;
import mellow.server.common.Refusal;
import mellow.server.language.LanguageService;
import mellow.server.people.PeopleService;
import mellow.server.people.Rights;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/**
 * Figures about what people offered and what became of it. They help to decide whom to trust with what, so they are shown to reviewers of the language,
 * to coordinators, and to everybody about themselves; in order of names, never of numbers.
 */
@Service
public class ContributionService {

    /**
     * Offers that were made or answered in the period, or wait. A text that the memory or a machine drafted, put forward as it was, counts apart. Words
     * are those of the source.
     */
    private static final String FIGURES = Coded.sql(
            """
            with lately as (
                select o.language_id, o.author_id, o.origin, o.answer, o.by_rule, o.changed, o.changed_of, o.offered_time, o.answered_time,
                    e.words source_words, e.removed_at is null and t.removed_at is null present,
                    o.answer <> {answer.open} and o.answered_time >= :from and o.answered_time < :until in_period
                from offer o join entry e on e.id = o.entry_id join ledger_table t on t.id = e.table_id
                where o.language_id = any(:languages) and (:person = 0 or o.author_id = :person)
                  and (o.answer = {answer.open} or (o.offered_time >= :from and o.offered_time < :until) or (o.answered_time >= :from and o.answered_time < :until)))
            select l.tag, p.id, p.name, o.origin in ('memory', 'draft') by_machine,
                count(*) filter (where o.offered_time >= :from and o.offered_time < :until) offered,
                count(*) filter (where o.in_period and o.answer = {answer.settled}) settled,
                count(*) filter (where o.in_period and o.answer = {answer.settled} and o.by_rule) by_rule,
                count(*) filter (where o.in_period and o.answer = {answer.amended}) amended,
                count(*) filter (where o.in_period and o.answer = {answer.returned}) returned,
                count(*) filter (where o.in_period and o.answer = {answer.set_aside}) set_aside,
                count(*) filter (where o.in_period and o.answer = {answer.withdrawn}) withdrawn,
                count(*) filter (where o.answer = {answer.open} and o.present) waiting,
                coalesce(sum(o.source_words) filter (where o.in_period and o.answer in ({answer.settled}, {answer.amended})), 0) words,
                coalesce(sum(o.changed) filter (where o.in_period and o.answer = {answer.amended}), 0) changed,
                coalesce(sum(o.changed_of) filter (where o.in_period and o.answer = {answer.amended}), 0) changed_of,
                percentile_cont(0.5) within group (order by extract(epoch from o.answered_time - o.offered_time))
                    filter (where o.in_period and o.answer in ({answer.settled}, {answer.amended}, {answer.returned}) and not o.by_rule) median
            from lately o join language l on l.id = o.language_id join person p on p.id = o.author_id
            group by l.tag, p.id, p.name, by_machine
            having count(*) filter (where o.present or o.answer <> {answer.open}) > 0
            order by l.tag, lower(p.name), p.id, by_machine
            """);

    private static final String WEEKS = Coded.sql(
            """
            select l.tag, o.author_id, date_trunc('week', o.answered_time at time zone 'UTC')::date week,
                count(*) filter (where o.answer = {answer.settled}) settled, count(*) filter (where o.answer = {answer.amended}) amended, count(*) filter (where o.answer = {answer.returned}) returned
            from offer o join language l on l.id = o.language_id
            where o.language_id = any(:languages) and (:person = 0 or o.author_id = :person) and o.answer in ({answer.settled}, {answer.amended}, {answer.returned})
              and o.answered_time >= :from and o.answered_time < :until
            group by 1, 2, 3 order by 1, 2, 3
            """);
    /** As a standing rule counts: what a reviewer settled since they last amended or returned one. */
    private static final String ROWS = Coded.sql(
            """
            select w.language, w.person, (
                select count(*) from offer o where o.language_id = w.language and o.author_id = w.person and o.answer in ({answer.settled}, {answer.amended}, {answer.returned}) and not o.by_rule and o.answer = {answer.settled}
                  and o.answered_time > coalesce((select b.answered_time from offer b
                      where b.language_id = w.language and b.author_id = w.person and b.answer in ({answer.settled}, {answer.amended}, {answer.returned}) and not b.by_rule and b.answer <> {answer.settled}
                      order by b.answered_time desc limit 1), '-infinity')) in_a_row
            from unnest(cast(:languages as int[]), cast(:people as bigint[])) w (language, person)
            """);

    private final LanguageService languages;
    private final PeopleService people;
    private final JdbcClient jdbc;

    ContributionService(LanguageService languages, PeopleService people, JdbcClient jdbc) {
        this.languages = languages;
        this.people = people;
        this.jdbc = jdbc;
    }

    /**
     * Figures of a period.
     *
     * @param offered texts put forward in it
     * @param settled offers settled as they were
     * @param byRule of those, the ones that a standing rule settled
     * @param amended offers changed, then settled
     * @param returned offers sent back with a reason
     * @param setAside offers whose cell got another text
     * @param withdrawn offers their author took back
     * @param waiting offers that wait now, whenever they were made
     * @param words words of the sources of settled and amended offers
     * @param changed characters that amending changed
     * @param changedOf of so many
     * @param medianSeconds half of the reviewers' answers came within this time; null without any
     */
    public record Figures(
            int offered,
            int settled,
            int byRule,
            int amended,
            int returned,
            int setAside,
            int withdrawn,
            int waiting,
            long words,
            int changed,
            int changedOf,
            @Nullable Long medianSeconds) {

        static final Figures NONE = new Figures(0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, null);
    }

    /** What was answered in the week that begins on that day. */
    public record Week(LocalDate monday, int settled, int amended, int returned) {}

    /**
     * A person's contributions in a language.
     *
     * @param language the language's tag
     * @param own texts they made
     * @param machine texts of the memory or a machine that they put forward as they were
     * @param inARow offers settled as they were since one was last amended or returned
     * @param weeks weeks with answers, the oldest first
     */
    public record Contribution(
            String language, long person, String name, Figures own, Figures machine, int inARow, List<Week> weeks) {}

    private record Who(String language, long person) {}

    /**
     * Contributions in the languages that {@code me} may see, in order of language and name.
     *
     * @param tags only these languages; all when empty
     * @param person only theirs; 0 for everyone's
     */
    @Transactional(readOnly = true)
    public List<Contribution> contributions(long me, Collection<LanguageTag> tags, long person, Period period) {
        Rights rights = people.rights(me);
        Collection<LanguageTag> asked = tags.isEmpty() ? languages.all() : tags;
        Integer[] numbers = asked.stream()
                .filter(tag -> person == me || rights.reviews(tag))
                .flatMap(tag -> languages.known(tag).stream())
                .toArray(Integer[]::new);
        if (numbers.length == 0) {
            if (person != me && !tags.isEmpty()) {
                throw notYours();
            }
            return List.of();
        }
        Map<Who, List<Week>> weeks = new HashMap<>();
        period.in(jdbc.sql(WEEKS))
                .param("languages", numbers)
                .param("person", person)
                .query(row -> {
                    weeks.computeIfAbsent(new Who(row.getString(1), row.getLong(2)), who -> new ArrayList<>())
                            .add(new Week(
                                    row.getObject(3, LocalDate.class), row.getInt(4), row.getInt(5), row.getInt(6)));
                });
        List<Contribution> found = new ArrayList<>();
        period.in(jdbc.sql(FIGURES))
                .param("languages", numbers)
                .param("person", person)
                .query(row -> {
                    Who who = new Who(row.getString("tag"), row.getLong("id"));
                    Figures figures = figures(row);
                    boolean machine = row.getBoolean("by_machine");
                    Contribution last = found.isEmpty() ? null : found.get(found.size() - 1);
                    if (machine && last != null && who.equals(new Who(last.language(), last.person()))) {
                        found.set(found.size() - 1, withMachine(last, figures));
                        return;
                    }
                    found.add(new Contribution(
                            who.language(),
                            who.person(),
                            row.getString("name"),
                            machine ? Figures.NONE : figures,
                            machine ? figures : Figures.NONE,
                            0,
                            weeks.getOrDefault(who, List.of())));
                });
        return withRows(found);
    }

    private List<Contribution> withRows(List<Contribution> found) {
        Map<Who, Integer> inARow = new HashMap<>();
        jdbc.sql(ROWS)
                .param(
                        "languages",
                        found.stream()
                                .map(one -> languages.numberOrNone(new LanguageTag(one.language())))
                                .toArray(Integer[]::new))
                .param("people", found.stream().map(Contribution::person).toArray(Long[]::new))
                .query(row -> {
                    String language = languages.tag(row.getInt(1)).value();
                    inARow.put(new Who(language, row.getLong(2)), row.getInt(3));
                });
        return found.stream()
                .map(one -> new Contribution(
                        one.language(),
                        one.person(),
                        one.name(),
                        one.own(),
                        one.machine(),
                        inARow.getOrDefault(new Who(one.language(), one.person()), 0),
                        one.weeks()))
                .toList();
    }

    private static Contribution withMachine(Contribution own, Figures machine) {
        return new Contribution(
                own.language(), own.person(), own.name(), own.own(), machine, own.inARow(), own.weeks());
    }

    private static Figures figures(ResultSet row) throws SQLException {
        Double median = row.getObject("median", Double.class);
        return new Figures(
                row.getInt("offered"),
                row.getInt("settled"),
                row.getInt("by_rule"),
                row.getInt("amended"),
                row.getInt("returned"),
                row.getInt("set_aside"),
                row.getInt("withdrawn"),
                row.getInt("waiting"),
                row.getLong("words"),
                row.getInt("changed"),
                row.getInt("changed_of"),
                median == null ? null : Math.round(median));
    }

    static Refusal notYours() {
        return Refusal.forbidden(
                "not-yours", "Only coordinators and reviewers of the language see what others contributed.");
    }
}
