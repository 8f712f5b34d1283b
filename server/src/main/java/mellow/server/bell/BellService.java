package mellow.server.bell;

import java.sql.Timestamp;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import mellow.core.language.LanguageTag;
import mellow.server.common.Coded;
import mellow.server.language.LanguageService;
import mellow.server.people.PeopleService;
import mellow.server.people.Rights;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.jdbc.core.simple.JdbcClient.StatementSpec;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Notices are read from the record whenever someone looks, so they are never missed, never twice and never about what is settled meanwhile. */
@Service
public class BellService {

    private static final Duration NEWS = Duration.ofDays(30);
    private static final int MOST_ANSWERS = 10;

    private static final String WAITING = Coded.sql(
            """
            select l.tag, count(*) n, max(o.offered_time) at from offer o join language l on l.id = o.language_id
            join entry e on e.id = o.entry_id and e.removed_at is null join ledger_table t on t.id = e.table_id and t.removed_at is null
            where o.answer = {answer.open} and o.author_id <> :me and o.language_id = any(:languages) group by l.tag
            """);
    private static final String CAME_BACK = Coded.sql(
            """
            select l.tag, count(*) n, max(o.answered_time) at from offer o join language l on l.id = o.language_id
            join cell c on c.entry_id = o.entry_id and c.language_id = o.language_id and c.state = {state.returned}
            join entry e on e.id = o.entry_id and e.removed_at is null join ledger_table t on t.id = e.table_id and t.removed_at is null
            where o.answer = {answer.returned} and o.author_id = :me and not exists (select 1 from offer n
                where n.entry_id = o.entry_id and n.language_id = o.language_id and n.answer <> {answer.withdrawn} and n.opened_version > o.opened_version)
            group by l.tag
            """);
    private static final String SETTLED = Coded.sql(
            """
            select l.tag, count(*) n, max(o.answered_time) at from offer o join language l on l.id = o.language_id
            where o.answer in ({answer.settled}, {answer.amended}) and o.author_id = :me and not o.by_rule and o.answered_time > :since group by l.tag
            """);
    private static final String ANSWERED =
            """
            select q.entry_id, e.key, t.slug, q.answered_at at from question q join entry e on e.id = q.entry_id and e.removed_at is null
            join ledger_table t on t.id = e.table_id and t.removed_at is null
            where q.person_id = :me and q.answered_by <> :me and q.answered_at > :since order by q.answered_at desc limit :most
            """;
    private static final String ASKED =
            """
            select count(*) n, max(q.asked_at) at from question q join entry e on e.id = q.entry_id and e.removed_at is null
            join ledger_table t on t.id = e.table_id and t.removed_at is null
            where q.answer is null and q.person_id <> :me having count(*) > 0
            """;

    /** Products that should have gone out by themselves, or lie in the outbox, and do not: until the next delivery of theirs succeeds. */
    private static final String NOT_DELIVERED =
            """
            select p.name, p.slug, r.ended_at at, r.message said from product p
            cross join lateral (select * from run where kind = 'deliver' and subject = p.id order by id desc limit 1) r
            where p.removed_at is null and r.status in ('failed', 'lost') and r.arguments = 'by itself'
            union all
            select p.name, p.slug, d.at, d.outbox_said from product p
            cross join lateral (select * from delivery where product_id = p.id and recalled_at is null order by number desc limit 1) d
            where p.removed_at is null and d.outbox_said <> ''
            """;

    private final PeopleService people;
    private final LanguageService languages;
    private final JdbcClient jdbc;
    private final Clock clock;

    BellService(PeopleService people, LanguageService languages, JdbcClient jdbc, Clock clock) {
        this.people = people;
        this.languages = languages;
        this.jdbc = jdbc;
        this.clock = clock;
    }

    /** What a notice is about. */
    public enum Kind {
        /** Offers of others wait in a language that one reviews. */
        WAITING,
        /** Offers of one's own came back and nothing newer was offered. */
        CAME_BACK,
        /** Offers of one's own were settled or amended lately. */
        SETTLED,
        /** A question of one's own was answered lately. */
        ANSWERED,
        /** Questions wait for a coordinator. */
        ASKED,
        /** A product did not go out by itself, or could not be laid into the outbox. */
        NOT_DELIVERED
    }

    /**
     * A notice.
     *
     * @param language the language's tag, for offers
     * @param n of how many
     * @param at when the last of them came
     * @param fresh whether that was after one last looked
     * @param entry the entry of an answered question
     * @param key its key; the name of a product
     * @param table its table's name in addresses; that of a product
     * @param said why a product did not go out
     */
    public record Notice(
            Kind kind,
            @Nullable String language,
            int n,
            Instant at,
            boolean fresh,
            @Nullable Long entry,
            @Nullable String key,
            @Nullable String table,
            @Nullable String said) {}

    /** The notices of a person, the newest first. */
    @Transactional(readOnly = true)
    public List<Notice> notices(long me) {
        Rights rights = people.rights(me);
        Integer[] reviewed = languages.all().stream()
                .filter(rights::reviews)
                .flatMap((LanguageTag tag) -> languages.known(tag).stream())
                .toArray(Integer[]::new);
        Instant seen = jdbc.sql("select bell_seen_at from person where id = :me")
                .param("me", me)
                .query((row, n) -> Optional.ofNullable(row.getTimestamp(1)))
                .single()
                .map(Timestamp::toInstant)
                .orElse(Instant.EPOCH);
        Instant since = clock.instant().minus(NEWS);
        List<Notice> notices = new ArrayList<>();
        add(
                notices,
                Kind.WAITING,
                seen,
                jdbc.sql(WAITING).param("languages", reviewed).param("me", me));
        add(notices, Kind.CAME_BACK, seen, jdbc.sql(CAME_BACK).param("me", me));
        add(notices, Kind.SETTLED, seen, since(jdbc.sql(SETTLED), since).param("me", me));
        since(jdbc.sql(ANSWERED), since)
                .param("me", me)
                .param("most", MOST_ANSWERS)
                .query(row -> {
                    Instant at = row.getTimestamp("at").toInstant();
                    notices.add(new Notice(
                            Kind.ANSWERED,
                            null,
                            1,
                            at,
                            at.isAfter(seen),
                            row.getLong("entry_id"),
                            row.getString("key"),
                            row.getString("slug"),
                            null));
                });
        if (rights.coordinator()) {
            jdbc.sql(ASKED).param("me", me).query(row -> {
                Instant at = row.getTimestamp("at").toInstant();
                notices.add(
                        new Notice(Kind.ASKED, null, row.getInt("n"), at, at.isAfter(seen), null, null, null, null));
            });
            jdbc.sql(NOT_DELIVERED).query(row -> {
                Instant at = row.getTimestamp("at").toInstant();
                notices.add(new Notice(
                        Kind.NOT_DELIVERED,
                        null,
                        1,
                        at,
                        at.isAfter(seen),
                        null,
                        row.getString("name"),
                        row.getString("slug"),
                        row.getString("said")));
            });
        }
        notices.sort(Comparator.comparing(Notice::at).reversed());
        return notices;
    }

    private static StatementSpec since(StatementSpec statement, Instant since) {
        return statement.param("since", since.atOffset(ZoneOffset.UTC));
    }

    private static void add(List<Notice> notices, Kind kind, Instant seen, StatementSpec perLanguage) {
        perLanguage.query(row -> {
            Instant at = row.getTimestamp("at").toInstant();
            notices.add(new Notice(
                    kind, row.getString("tag"), row.getInt("n"), at, at.isAfter(seen), null, null, null, null));
        });
    }

    /** The person has looked at what there is up to {@code until}; what came while they looked stays fresh. */
    @Transactional
    public void seen(long me, Instant until) {
        people.sawNotices(me, until);
    }
}
