package mellow.server.token;

import java.sql.Types;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import mellow.server.common.Hashes;
import mellow.server.common.Refusal;
import mellow.server.common.Secrets;
import mellow.server.people.PeopleService;
import mellow.server.people.SignedIn;
import mellow.server.table.TableService;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Makes, lists and ends tokens. A token acts for the coordinator who made it, in as much as it says, until it expires; only its hash is kept. */
@Service
class TokenService {

    private static final String PREFIX = "mellow-";
    private static final int SECRET_BYTES = 32;
    private static final int LONGEST_DAYS = 400;
    private static final int LONGEST_NAME = 100;

    private static final String HOLDER =
            """
            update token t set used_at = :now from person p
            where t.hash = :hash and t.ended_at is null and t.expires_at > :now and p.id = t.person_id and p.ended_at is null and p.coordinator
            returning p.id, p.sign_in, p.name, t.takes_in, t.sends_out, (select slug from ledger_table l where l.id = t.table_id) slug, t.table_id
            """;
    private static final String LIST =
            """
            select t.*, p.name person, l.slug, l.name table_name from token t join person p on p.id = t.person_id
            left join ledger_table l on l.id = t.table_id where t.ended_at is null order by t.id desc
            """;

    private final JdbcClient jdbc;
    private final PeopleService people;
    private final TableService tables;
    private final Clock clock;

    TokenService(JdbcClient jdbc, PeopleService people, TableService tables, Clock clock) {
        this.jdbc = jdbc;
        this.people = people;
        this.tables = tables;
        this.clock = clock;
    }

    /**
     * Whom a program acts for, and what it may do.
     *
     * @param table the only table it may touch, by its name in addresses; null for all
     */
    record Holder(SignedIn person, boolean takesIn, boolean sendsOut, @Nullable String table) {}

    /**
     * A token in the list.
     *
     * @param table the only table it may touch, by its name in addresses; null for all
     * @param usedAt when a program last used it, null for never
     */
    record TokenReply(
            long id,
            String name,
            String person,
            boolean takesIn,
            boolean sendsOut,
            @Nullable String table,
            @Nullable String tableName,
            Instant createdAt,
            Instant expiresAt,
            @Nullable Instant usedAt) {}

    /** Makes a token; its secret, which is never told again. */
    @Transactional
    public String create(
            long person, String name, boolean takesIn, boolean sendsOut, @Nullable String table, int days) {
        people.rights(person).requireCoordinator("make tokens");
        if (name.isBlank() || name.length() > LONGEST_NAME) {
            throw Refusal.unacceptable(
                    "bad-name",
                    "A token needs a name of 1 to {most} characters.",
                    Map.of("field", "name", "most", LONGEST_NAME));
        }
        if (days < 1 || days > LONGEST_DAYS) {
            throw Refusal.unacceptable(
                    "bad-days", "A token lasts 1 to {most} days.", Map.of("field", "days", "most", LONGEST_DAYS));
        }
        if (!takesIn && !sendsOut) {
            throw Refusal.unacceptable(
                    "no-use", "A token has to be good for something: taking in, sending out or both.");
        }
        String secret = PREFIX + Secrets.made(SECRET_BYTES);
        Instant now = clock.instant();
        jdbc.sql(
                        """
                        insert into token (hash, name, person_id, takes_in, sends_out, table_id, created_at, expires_at)
                        values (:hash, :name, :person, :takesIn, :sendsOut, :table, :now, :expires)
                        """)
                .param("hash", Hashes.sha256(secret))
                .param("name", name.strip())
                .param("person", person)
                .param("takesIn", takesIn)
                .param("sendsOut", sendsOut)
                .param(
                        "table",
                        table == null ? null : Long.valueOf(tables.find(table).id()),
                        Types.BIGINT)
                .param("now", now.atOffset(ZoneOffset.UTC))
                .param("expires", now.plus(Duration.ofDays(days)).atOffset(ZoneOffset.UTC))
                .update();
        return secret;
    }

    /** The tokens that have not been ended, the newest first. */
    @Transactional(readOnly = true)
    public List<TokenReply> all(long person) {
        people.rights(person).requireCoordinator("see tokens");
        return jdbc.sql(LIST)
                .query((row, n) -> new TokenReply(
                        row.getLong("id"),
                        row.getString("name"),
                        row.getString("person"),
                        row.getBoolean("takes_in"),
                        row.getBoolean("sends_out"),
                        row.getString("slug"),
                        row.getString("table_name"),
                        row.getTimestamp("created_at").toInstant(),
                        row.getTimestamp("expires_at").toInstant(),
                        row.getTimestamp("used_at") == null
                                ? null
                                : row.getTimestamp("used_at").toInstant()))
                .list();
    }

    /** Ends a token at once. */
    @Transactional
    public void end(long person, long id) {
        people.rights(person).requireCoordinator("end tokens");
        int ended = jdbc.sql("update token set ended_at = :now where id = :id and ended_at is null")
                .param("now", clock.instant().atOffset(ZoneOffset.UTC))
                .param("id", id)
                .update();
        if (ended == 0) {
            throw Refusal.notFound("no-such-token", "This token does not exist any more.");
        }
    }

    /** Whom the program with this secret acts for; empty when it is unknown, expired or ended, or its maker is no coordinator any more. */
    @Transactional
    public Optional<Holder> holder(String secret) {
        return jdbc.sql(HOLDER)
                .param("hash", Hashes.sha256(secret))
                .param("now", clock.instant().atOffset(ZoneOffset.UTC))
                .query((row, n) -> new Holder(
                        new SignedIn(row.getLong("id"), row.getString("sign_in"), row.getString("name")),
                        row.getBoolean("takes_in"),
                        row.getBoolean("sends_out"),
                        row.getObject("table_id") == null ? null : String.valueOf(row.getString("slug"))))
                .optional();
    }
}
