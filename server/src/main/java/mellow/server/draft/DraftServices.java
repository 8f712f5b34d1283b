package mellow.server.draft;

import java.net.URI;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Clock;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import mellow.core.language.LanguageTag;
import mellow.server.common.AllowedHosts;
import mellow.server.common.Refusal;
import mellow.server.common.SecretBox;
import mellow.server.language.LanguageService;
import mellow.server.people.PeopleService;
import mellow.server.table.TableService;
import org.jspecify.annotations.Nullable;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.dao.DuplicateKeyException;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Keeps the settings of drafting services, and what they may still be sent today and this month. A secret goes in and never comes out again. */
@Service
public class DraftServices {

    private static final String DO = "change drafting services";
    private static final int MOST = 20;

    private static final String SERVICES =
            """
            select s.*, coalesce(sum(u.characters) filter (where u.day = :today), 0) today, coalesce(sum(u.characters), 0) this_month,
                (select coalesce(array_agg(t.slug order by t.slug), '{}') from ledger_table t where t.id = any(s.withheld) and t.removed_at is null) slugs
            from draft_service s left join draft_use u on u.service_id = s.id and u.day >= :month
            where s.removed_at is null group by s.id order by lower(s.name)
            """;
    private static final String ADD =
            """
            insert into draft_service (name, address, secret, languages, withheld, day_characters, month_characters, texts_at_once, requests_at_once, seconds, person_id, made_at)
            values (:name, :address, :secret, :languages, :withheld, :day, :month, :texts, :requests, :seconds, :person, :now) returning id
            """;
    private static final String CHANGE =
            """
            update draft_service set name = :name, address = :address, secret = case when :keep then secret else :secret end, languages = :languages,
                withheld = :withheld, day_characters = :day, month_characters = :month, texts_at_once = :texts, requests_at_once = :requests, seconds = :seconds,
                version = version + 1
            where id = :id and version = :version and removed_at is null
            """;
    private static final String USE =
            """
            insert into draft_use (service_id, day, characters) values (:service, :day, greatest(:characters, 0))
            on conflict (service_id, day) do update set characters = greatest(draft_use.characters + :characters, 0)
            """;

    private final PeopleService people;
    private final TableService tables;
    private final LanguageService languages;
    private final SecretBox box;
    private final JdbcClient jdbc;
    private final Clock clock;
    private final AllowedHosts hosts;

    DraftServices(
            PeopleService people,
            TableService tables,
            LanguageService languages,
            SecretBox box,
            JdbcClient jdbc,
            Clock clock,
            @Value("${mellow.drafting.hosts:}") Set<String> hosts) {
        this.people = people;
        this.tables = tables;
        this.languages = languages;
        this.box = box;
        this.jdbc = jdbc;
        this.clock = clock;
        this.hosts = new AllowedHosts(hosts);
    }

    /**
     * How a service is asked.
     *
     * @param languages tags of those that it drafts; none for all
     * @param withheld slugs of tables whose texts may not leave
     * @param dayCharacters of sources that it may be sent on a day (UTC)
     * @param monthCharacters in a calendar month
     * @param textsAtOnce in one request
     * @param requestsAtOnce by one fill
     * @param seconds how long it may take to answer
     */
    public record DraftSettings(
            String name,
            String address,
            List<String> languages,
            List<String> withheld,
            long dayCharacters,
            long monthCharacters,
            int textsAtOnce,
            int requestsAtOnce,
            int seconds) {}

    /**
     * A service as a coordinator sees it.
     *
     * @param secret whether it has one
     * @param today characters that it was sent today (UTC)
     * @param month characters that it was sent this month
     */
    public record DraftServiceReply(
            long id, DraftSettings settings, boolean secret, long today, long month, int version) {}

    /**
     * The services.
     *
     * @param hosts that this installation lets be asked; none unless whoever starts the server names them
     */
    public record DraftDesk(List<String> hosts, List<DraftServiceReply> services) {}

    /** A service that can be asked for a language, by whoever may change texts in it. */
    public record DraftChoice(long id, String name) {}

    /** A service as it is asked. */
    record Asked(DraftServiceReply reply, byte @Nullable [] secret, Set<Long> withheld) {

        URI address() {
            return URI.create(reply.settings().address());
        }

        /** What it may still be sent now. */
        long left() {
            DraftSettings settings = reply.settings();
            return Math.max(
                    0, Math.min(settings.dayCharacters() - reply.today(), settings.monthCharacters() - reply.month()));
        }

        boolean drafts(LanguageTag language) {
            return reply.settings().languages().isEmpty()
                    || reply.settings().languages().contains(language.value());
        }
    }

    /** All services. */
    @Transactional(readOnly = true)
    public DraftDesk all(long person) {
        people.rights(person).requireCoordinator("see drafting services");
        return new DraftDesk(
                hosts.names(), services().stream().map(Asked::reply).toList());
    }

    /** Those that draft a language. */
    @Transactional(readOnly = true)
    public List<DraftChoice> choices(LanguageTag language) {
        return services().stream()
                .filter(one -> one.drafts(language))
                .map(one ->
                        new DraftChoice(one.reply().id(), one.reply().settings().name()))
                .toList();
    }

    /** Adds a service; its number. */
    @Transactional
    public long add(long person, DraftSettings settings, @Nullable String secret) {
        people.rights(person).requireCoordinator(DO);
        if (services().size() >= MOST) {
            throw Refusal.unacceptable(
                    "many-draft-services", "At most {most} drafting services are kept.", Map.of("most", MOST));
        }
        try {
            return with(jdbc.sql(ADD), settings, Set.of())
                    .param("secret", sealed(secret))
                    .param("person", person)
                    .param("now", clock.instant().atOffset(ZoneOffset.UTC))
                    .query(Long.class)
                    .single();
        } catch (DuplicateKeyException twice) {
            throw taken(settings.name());
        }
    }

    /**
     * Changes a service.
     *
     * @param secret the new one; null keeps what it has, empty takes it away. One that has a secret keeps it at the same address only: elsewhere it has to be
     *     entered again
     */
    @Transactional
    public void change(long person, long id, int version, DraftSettings settings, @Nullable String secret) {
        people.rights(person).requireCoordinator(DO);
        Asked before = find(id);
        boolean elsewhere = !before.address().equals(hosts.require(settings.address()));
        if (secret == null && before.secret() != null && elsewhere) {
            throw Refusal.unacceptable(
                    "secret-elsewhere",
                    "The secret was given for another address; enter it again, so that it goes nowhere by mistake.",
                    Map.of("field", "secret"));
        }
        try {
            int changed = with(jdbc.sql(CHANGE), settings, unseen(before))
                    .param("keep", secret == null)
                    .param("secret", sealed(secret))
                    .param("id", id)
                    .param("version", version)
                    .update();
            if (changed == 0) {
                throw Refusal.conflict(
                        "service-moved-on",
                        "Someone changed this service meanwhile; look at it again, then repeat your change.",
                        Map.of());
            }
        } catch (DuplicateKeyException twice) {
            throw taken(settings.name());
        }
    }

    /** Has a service asked no more. */
    @Transactional
    public void remove(long person, long id) {
        people.rights(person).requireCoordinator(DO);
        int removed = jdbc.sql(
                        "update draft_service set removed_at = :now, secret = null, version = version + 1 where id = :id and removed_at is null")
                .param("now", clock.instant().atOffset(ZoneOffset.UTC))
                .param("id", id)
                .update();
        if (removed == 0) {
            throw unknown();
        }
    }

    /** The service with that number. */
    @Transactional(readOnly = true)
    Asked find(long id) {
        return services().stream()
                .filter(one -> one.reply().id() == id)
                .findFirst()
                .orElseThrow(DraftServices::unknown);
    }

    /** The first that drafts a language, by name. */
    @Transactional(readOnly = true)
    Optional<Asked> first(LanguageTag language) {
        return services().stream().filter(one -> one.drafts(language)).findFirst();
    }

    /** What it is asked with; empty where it has none. */
    String secretOf(Asked service) {
        return service.secret() == null ? "" : box.open(service.secret());
    }

    /** Refuses a service that the server may not speak to. */
    void requireAllowed(Asked service) {
        hosts.require(service.reply().settings().address());
    }

    /**
     * What was counted before it is sent.
     *
     * @param texts how many of those that were wanted, from the first on
     * @param characters of them
     * @param day on which they count
     */
    record Reserved(int texts, long characters, LocalDate day) {}

    /**
     * Takes as many of several texts, from the first on, as a service may still be sent, and counts them as sent, whichever server asks; none of one that was removed. In
     * a transaction of its own, so that it counts before anything is sent.
     *
     * @param characters of each
     */
    @Transactional(propagation = Propagation.REQUIRES_NEW)
    Reserved reserve(long service, List<Integer> characters) {
        jdbc.sql("select id from draft_service where id = :id for update")
                .param("id", service)
                .query(Long.class)
                .list();
        long left = services().stream()
                .filter(one -> one.reply().id() == service)
                .map(Asked::left)
                .findFirst()
                .orElse(0L);
        int taken = 0;
        long sum = 0;
        while (taken < characters.size() && sum + characters.get(taken) <= left) {
            sum += characters.get(taken++);
        }
        Reserved reserved = new Reserved(taken, sum, today());
        count(service, sum, reserved.day);
        return reserved;
    }

    /** Counts what was not sent after all no more, on the day on which it was counted. */
    @Transactional(propagation = Propagation.REQUIRES_NEW)
    void giveBack(long service, Reserved reserved) {
        count(service, -reserved.characters, reserved.day);
    }

    private void count(long service, long characters, LocalDate day) {
        jdbc.sql(USE)
                .param("service", service)
                .param("day", day)
                .param("characters", characters)
                .update();
    }

    private LocalDate today() {
        return LocalDate.ofInstant(clock.instant(), ZoneOffset.UTC);
    }

    private List<Asked> services() {
        LocalDate today = today();
        return jdbc.sql(SERVICES)
                .param("today", today)
                .param("month", today.withDayOfMonth(1))
                .query((row, n) -> asked(row))
                .list();
    }

    private Asked asked(ResultSet row) throws SQLException {
        DraftSettings settings = new DraftSettings(
                row.getString("name"),
                row.getString("address"),
                List.of((String[]) row.getArray("languages").getArray()),
                List.of((String[]) row.getArray("slugs").getArray()),
                row.getLong("day_characters"),
                row.getLong("month_characters"),
                row.getInt("texts_at_once"),
                row.getInt("requests_at_once"),
                row.getInt("seconds"));
        byte[] secret = row.getBytes("secret");
        DraftServiceReply reply = new DraftServiceReply(
                row.getLong("id"),
                settings,
                secret != null,
                row.getLong("today"),
                row.getLong("this_month"),
                row.getInt("version"));
        return new Asked(reply, secret, Set.copyOf(Arrays.asList((Long[])
                row.getArray("withheld").getArray())));
    }

    /** Withheld tables that were removed: nobody sees them in the settings, and they can be put back. */
    private Set<Long> unseen(Asked service) {
        return service.withheld().stream()
                .filter(table -> tables.there(table).isEmpty())
                .collect(Collectors.toSet());
    }

    private JdbcClient.StatementSpec with(
            JdbcClient.StatementSpec statement, DraftSettings settings, Set<Long> unseen) {
        return statement
                .param("name", settings.name().strip())
                .param("address", hosts.require(settings.address()).toString())
                .param(
                        "languages",
                        languages.parse(settings.languages()).stream()
                                .map(LanguageTag::value)
                                .toArray(String[]::new))
                .param(
                        "withheld",
                        Stream.concat(
                                        unseen.stream(),
                                        settings.withheld().stream()
                                                .map(slug -> tables.find(slug).id()))
                                .distinct()
                                .toArray(Long[]::new))
                .param("day", settings.dayCharacters())
                .param("month", settings.monthCharacters())
                .param("texts", settings.textsAtOnce())
                .param("requests", settings.requestsAtOnce())
                .param("seconds", settings.seconds());
    }

    private byte @Nullable [] sealed(@Nullable String secret) {
        if (secret == null || secret.isBlank()) {
            return null;
        }
        // RFC 9110 §5.5: what a field of a request can carry.
        if (!secret.strip().chars().allMatch(letter -> letter > ' ' && letter <= '~')) {
            throw Refusal.unacceptable(
                    "bad-secret",
                    "A secret has letters, digits and signs of ASCII, and no spaces within it.",
                    Map.of("field", "secret"));
        }
        return box.seal(secret.strip());
    }

    private static Refusal taken(String name) {
        return Refusal.conflict(
                "service-there", "Another drafting service is called “{name}”.", Map.of("name", name.strip()));
    }

    private static Refusal unknown() {
        return Refusal.notFound("no-such-service", "There is no such drafting service any more.");
    }
}
