package mellow.server.question;

import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.List;
import mellow.server.activity.ActivityService;
import mellow.server.common.Refusal;
import mellow.server.live.LiveChange;
import mellow.server.live.LiveService;
import mellow.server.people.PeopleService;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Asks about entries and answers. An answer stays with the entry, for all languages. */
@Service
public class QuestionService {

    private static final String OF_ENTRY =
            """
            select q.id, q.text, q.asked_at, p.name asker, q.answer, a.name answerer, q.answered_at
            from question q join person p on p.id = q.person_id left join person a on a.id = q.answered_by
            where q.entry_id = :entry order by q.asked_at desc, q.id desc
            """;
    private static final String ANSWER =
            """
            update question set answer = :answer, answered_by = :person, answered_at = :now where id = :id
            returning entry_id
            """;

    private final PeopleService people;
    private final ActivityService activity;
    private final LiveService live;
    private final JdbcClient jdbc;
    private final Clock clock;

    QuestionService(PeopleService people, ActivityService activity, LiveService live, JdbcClient jdbc, Clock clock) {
        this.people = people;
        this.activity = activity;
        this.live = live;
        this.jdbc = jdbc;
        this.clock = clock;
    }

    /**
     * A question.
     *
     * @param answer null while it is open
     */
    public record Question(
            long id,
            String text,
            Instant askedAt,
            String asker,
            @Nullable String answer,
            @Nullable String answerer,
            @Nullable Instant answeredAt) {}

    /** The questions about an entry, the newest first. */
    @Transactional(readOnly = true)
    public List<Question> of(long entry) {
        return jdbc.sql(OF_ENTRY)
                .param("entry", entry)
                .query((row, n) -> new Question(
                        row.getLong("id"),
                        row.getString("text"),
                        row.getTimestamp("asked_at").toInstant(),
                        row.getString("asker"),
                        row.getString("answer"),
                        row.getString("answerer"),
                        row.getTimestamp("answered_at") == null
                                ? null
                                : row.getTimestamp("answered_at").toInstant()))
                .list();
    }

    /** Asks, as anyone may; its number. */
    @Transactional
    public long ask(long person, long entry, String text) {
        Instant at = clock.instant();
        long table = tableOf(entry);
        long id = jdbc.sql(
                        "insert into question (entry_id, person_id, text, asked_at) values (:entry, :person, :text, :at) returning id")
                .param("entry", entry)
                .param("person", person)
                .param("text", text.strip())
                .param("at", at.atOffset(ZoneOffset.UTC))
                .query(Long.class)
                .single();
        tell(person, table, entry, "asked", at);
        return id;
    }

    /** Answers, as coordinators do; an answer can be given again in other words. */
    @Transactional
    public void answer(long person, long id, String text) {
        Instant at = clock.instant();
        people.rights(person).requireCoordinator("answer questions");
        long entry = jdbc.sql(ANSWER)
                .param("answer", text.strip())
                .param("person", person)
                .param("now", at.atOffset(ZoneOffset.UTC))
                .param("id", id)
                .query(Long.class)
                .optional()
                .orElseThrow(() -> Refusal.notFound("no-such-question", "This question does not exist."));
        tell(person, tableOf(entry), entry, "answered", at);
    }

    private long tableOf(long entry) {
        return jdbc.sql("select table_id from entry where id = :entry and removed_at is null")
                .param("entry", entry)
                .query(Long.class)
                .optional()
                .orElseThrow(Refusal::noSuchEntry);
    }

    private void tell(long person, long table, long entry, String what, Instant at) {
        activity.note(person, table, ActivityService.NO_LANGUAGE, what, 0, 1, at);
        live.tell(new LiveChange(table, List.of(entry), List.of()));
    }
}
