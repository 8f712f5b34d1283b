package mellow.server.standing;

import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import mellow.core.cell.Offer.Answer;
import mellow.core.cell.StandingRule;
import mellow.core.language.LanguageTag;
import mellow.server.common.Coded;
import mellow.server.common.Refusal;
import mellow.server.language.LanguageService;
import mellow.server.people.PeopleService;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Keeps the standing rules, at most one per language, and says who is trusted by them. */
@Service
public class StandingService {

    private static final String RULES =
            """
            select l.tag, s.after, p.name, s.set_at from standing_rule s join language l on l.id = s.language_id join person p on p.id = s.set_by
            order by l.tag
            """;
    private static final String SET =
            """
            insert into standing_rule (language_id, after, set_by, set_at) values (:language, :after, :by, :at)
            on conflict (language_id) do update set after = excluded.after, set_by = excluded.set_by, set_at = excluded.set_at
            """;
    /** What a rule settled is no reviewer's answer. */
    private static final String ANSWERS = Coded.sql(
            """
            select answer from offer where author_id = :person and language_id = :language and answer in ({answer.settled}, {answer.amended}, {answer.returned}) and not by_rule
            order by answered_time desc, id desc limit :most
            """);

    private final LanguageService languages;
    private final PeopleService people;
    private final JdbcClient jdbc;
    private final Clock clock;

    StandingService(LanguageService languages, PeopleService people, JdbcClient jdbc, Clock clock) {
        this.languages = languages;
        this.people = people;
        this.jdbc = jdbc;
        this.clock = clock;
    }

    /**
     * A rule that is on.
     *
     * @param language the language's tag
     * @param after how many settled in a row
     * @param by who set it
     */
    public record Rule(String language, int after, String by, Instant at) {}

    /** The rules that are on, by language. */
    @Transactional(readOnly = true)
    public List<Rule> all() {
        return jdbc.sql(RULES)
                .query((row, n) -> new Rule(
                        row.getString("tag"),
                        row.getInt("after"),
                        row.getString("name"),
                        row.getTimestamp("set_at").toInstant()))
                .list();
    }

    /**
     * Sets a language's rule, or switches it off.
     *
     * @param after null switches it off
     */
    @Transactional
    public void set(long person, LanguageTag language, @Nullable Integer after) {
        people.rights(person).requireCoordinator("say whose offers are settled by a rule");
        int number = languages
                .known(language)
                .orElseThrow(() -> Refusal.unacceptable(
                        "language-not-kept", "No table is kept in {language}.", Map.of("language", language)));
        if (after == null) {
            jdbc.sql("delete from standing_rule where language_id = :language")
                    .param("language", number)
                    .update();
            return;
        }
        if (after < StandingRule.LEAST || after > StandingRule.MOST) {
            throw Refusal.unacceptable(
                    "bad-rule",
                    "A rule needs {least} to {most} offers settled in a row.",
                    Map.of("field", "after", "least", StandingRule.LEAST, "most", StandingRule.MOST));
        }
        jdbc.sql(SET)
                .param("language", number)
                .param("after", after)
                .param("by", person)
                .param("at", clock.instant().atOffset(ZoneOffset.UTC))
                .update();
    }

    /** The rule of a language that trusts {@code person} now, if there is one. */
    @Transactional(readOnly = true)
    public Optional<StandingRule> trusting(long person, int language) {
        return jdbc.sql("select after from standing_rule where language_id = :language")
                .param("language", language)
                .query((row, n) -> new StandingRule(row.getInt(1)))
                .optional()
                .filter(rule -> rule.trusts(answers(person, language, rule.after())));
    }

    private List<Answer> answers(long person, int language, int most) {
        return jdbc.sql(ANSWERS)
                .param("person", person)
                .param("language", language)
                .param("most", most)
                .query((row, n) -> Answer.values()[row.getInt(1)])
                .list();
    }
}
