package mellow.server.contribution;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import mellow.core.language.LanguageTag;
import mellow.server.common.Coded;
import mellow.server.common.Refusal;
import mellow.server.language.LanguageService;
import mellow.server.people.PeopleService;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** What was put in force in a language during a period, read from the story, so that it also tells what was replaced since. */
@Service
public class ReportService {

    /**
     * Lines of the story that put a text in force or say that it holds. A stale text was answered when the line's text is made for a newer source than
     * the one before it. Whoever took a file in stands for its texts; these are told apart from answers. What
     * was undone, and not done again, or came from a file that was taken back, does not count; it is looked up by hash, because a join would believe statistics that know nothing of an undo of
     * thousands a moment ago.
     */
    private static final String LINES = Coded.sql(
            """
            with undone as (
                select entry_id, version from cell_story where language_id = :language and what = 'undone' and version is not null and at >= :from),
            lines as (
                select s.person_id, s.entry_id, e.table_id, e.words, s.intake_id is not null from_file, s.what,
                    s.before is not null and s.was is not null and (s.was::jsonb ->> 'basedOn')::int < s.based_on answers_stale
                from cell_story s join entry e on e.id = s.entry_id
                where s.language_id = :language and s.at >= :from and s.at < :until
                  and (s.what = 'returned' or s.standing = {standing.settled} and s.what in ('settled', 'settled_by_rule', 'amended', 'still_holds', 'put_back'))
                  and ((s.entry_id, coalesce(s.version, 0) + 1) not in (select entry_id, version from undone)
                      or (s.entry_id, coalesce(s.version, 0) + 2) in (select entry_id, version from undone))
                  and (s.intake_id is null or s.intake_id not in (select id from intake where undone_at is not null)))
            select l.person_id, p.name, l.from_file, l.table_id, t.slug, t.name table_name,
                count(*) filter (where what = 'settled') settled, count(*) filter (where what = 'settled_by_rule') by_rule,
                count(*) filter (where what = 'amended') amended, count(*) filter (where what = 'returned') returned,
                count(*) filter (where what = 'still_holds') still_holds, count(*) filter (where what = 'put_back') put_back,
                count(*) filter (where what <> 'returned') times, count(distinct entry_id) filter (where what <> 'returned') entries,
                count(*) filter (where answers_stale and what <> 'returned') stale_answered,
                coalesce(sum(l.words) filter (where what <> 'returned'), 0) words
            from lines l left join person p on p.id = l.person_id left join ledger_table t on t.id = l.table_id
            group by grouping sets ((l.person_id, p.name, l.from_file), (l.table_id, t.slug, t.name))
            order by l.from_file, lower(p.name), l.person_id, lower(t.name), l.table_id
            """);

    private final LanguageService languages;
    private final PeopleService people;
    private final ContributionService contributions;
    private final JdbcClient jdbc;

    ReportService(LanguageService languages, PeopleService people, ContributionService contributions, JdbcClient jdbc) {
        this.languages = languages;
        this.people = people;
        this.contributions = contributions;
        this.jdbc = jdbc;
    }

    /**
     * What someone put in force.
     *
     * @param fromFiles whether it came by files they took in
     * @param byRule texts of their own that a standing rule settled
     * @param stillHolds stale texts that they said still hold
     * @param staleAnswered texts for which the source had changed, answered by any of these
     * @param words words of the sources
     */
    public record Answerer(
            String name,
            boolean fromFiles,
            int settled,
            int byRule,
            int amended,
            int returned,
            int stillHolds,
            int putBack,
            int staleAnswered,
            long words) {}

    /**
     * What was put in force in a table.
     *
     * @param entries entries that it concerned
     * @param times how often, counting an entry again when it was settled again
     */
    public record InTable(String slug, String name, int entries, int times, int staleAnswered, long words) {}

    /**
     * A report.
     *
     * @param language the language's tag
     * @param answerers who put texts in force, answers first, then files
     * @param contributors whose offers were made or answered
     */
    public record Report(
            String language,
            LocalDate from,
            LocalDate to,
            List<Answerer> answerers,
            List<InTable> tables,
            List<ContributionService.Contribution> contributors) {}

    /** The report of a language; for its reviewers and for coordinators. */
    @Transactional(readOnly = true)
    public Report report(long me, LanguageTag language, Period period) {
        if (!people.rights(me).reviews(language)) {
            throw ContributionService.notYours();
        }
        int number = languages
                .known(language)
                .orElseThrow(() -> Refusal.unacceptable(
                        "language-not-kept", "No table is kept in {language}.", Map.of("language", language)));
        List<Answerer> answerers = new ArrayList<>();
        List<InTable> tables = new ArrayList<>();
        period.in(jdbc.sql(LINES)).param("language", number).query(row -> {
            if (row.getObject("person_id") != null) {
                answerers.add(answerer(row));
            } else if (row.getInt("times") > 0) {
                tables.add(inTable(row));
            }
        });
        return new Report(
                language.value(),
                period.from(),
                period.to(),
                answerers,
                tables,
                contributions.contributions(me, List.of(language), 0, period));
    }

    private static Answerer answerer(ResultSet row) throws SQLException {
        return new Answerer(
                row.getString("name"),
                row.getBoolean("from_file"),
                row.getInt("settled"),
                row.getInt("by_rule"),
                row.getInt("amended"),
                row.getInt("returned"),
                row.getInt("still_holds"),
                row.getInt("put_back"),
                row.getInt("stale_answered"),
                row.getLong("words"));
    }

    private static InTable inTable(ResultSet row) throws SQLException {
        return new InTable(
                row.getString("slug"),
                row.getString("table_name"),
                row.getInt("entries"),
                row.getInt("times"),
                row.getInt("stale_answered"),
                row.getLong("words"));
    }
}
