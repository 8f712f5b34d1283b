package mellow.server.activity;

import java.time.Duration;
import java.time.Instant;
import java.time.OffsetDateTime;
import java.time.ZoneOffset;
import java.util.List;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** The activity log: small enough to read at any time, kept in the transaction of what it tells. */
@Service
public class ActivityService {

    /** Language of what concerns a whole table. */
    public static final int NO_LANGUAGE = 0;

    private static final Duration SLOT = Duration.ofMinutes(10);
    private static final int MOST_LINES = 40;

    private static final String NOTE =
            """
            insert into activity (slot, table_id, language_id, person_id, what, subject, amount, last_at)
            values (:slot, :table, :language, :person, :what, :subject, :amount, :at)
            on conflict (slot, table_id, language_id, person_id, what, subject)
            do update set amount = activity.amount + excluded.amount, last_at = greatest(activity.last_at, excluded.last_at)
            """;
    /** People's work adds up per table, language and kind; every intake is a line of its own. */
    private static final String SINCE =
            """
            select table_id, language_id, what, subject, sum(amount) amount, max(last_at) last_at, count(distinct person_id) people,
                   (array_agg(person_id order by last_at desc))[1] person_id
            from activity
            where slot >= :slot and last_at > :since and person_id <> :except
            group by table_id, language_id, what, subject
            order by max(last_at) desc, table_id, language_id, what limit :most
            """;

    private final JdbcClient jdbc;

    ActivityService(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /**
     * Notes that {@code person} did something.
     *
     * @param language the language's number, or {@link #NO_LANGUAGE}
     * @param what a word of the story: settled, offered, rewritten, …
     * @param subject the intake it came by, 0 for none
     * @param amount how many cells or entries
     */
    @Transactional(propagation = Propagation.MANDATORY)
    public void note(long person, long table, int language, String what, long subject, int amount, Instant at) {
        jdbc.sql(NOTE)
                .param("slot", slot(at))
                .param("table", table)
                .param("language", language)
                .param("person", person)
                .param("what", what)
                .param("subject", subject)
                .param("amount", amount)
                .param("at", at.atOffset(ZoneOffset.UTC))
                .update();
    }

    /** What others than {@code person} did after {@code since}, newest first, at most 40 lines. */
    @Transactional(readOnly = true)
    public List<Happened> since(Instant since, long person) {
        return jdbc.sql(SINCE)
                .param("slot", slot(since))
                .param("since", since.atOffset(ZoneOffset.UTC))
                .param("except", person)
                .param("most", MOST_LINES)
                .query((row, n) -> new Happened(
                        row.getLong("table_id"),
                        row.getInt("language_id"),
                        row.getString("what"),
                        row.getLong("subject"),
                        row.getInt("amount"),
                        row.getInt("people"),
                        row.getLong("person_id"),
                        row.getTimestamp("last_at").toInstant()))
                .list();
    }

    private static OffsetDateTime slot(Instant at) {
        long slot = at.getEpochSecond() / SLOT.toSeconds();
        return Instant.ofEpochSecond(slot * SLOT.toSeconds()).atOffset(ZoneOffset.UTC);
    }

    /**
     * Something that happened.
     *
     * @param language the language's number, {@link #NO_LANGUAGE} for none
     * @param what a word of the story
     * @param subject the intake it came by, 0 for none
     * @param amount how many cells or entries
     * @param people how many people did it
     * @param person the one who did it last
     * @param lastAt when it last happened
     */
    public record Happened(
            long table, int language, String what, long subject, int amount, int people, long person, Instant lastAt) {}
}
