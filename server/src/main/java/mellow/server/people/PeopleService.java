package mellow.server.people;

import java.sql.Timestamp;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.HashMap;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import mellow.core.language.LanguageTag;
import mellow.server.common.Refusal;
import mellow.server.language.LanguageService;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** People and what they may do. */
@Service
public class PeopleService {

    /** Of no password, with the strength that people's hashes have. */
    private static final String NOBODYS_HASH = "$2a$11$" + "abcdefghijklmnopqrstuu" + "abcdefghijklmnopqrstuvwxyzABCDE";

    private static final String RIGHTS =
            "select l.tag, r.level from person_right r join language l on l.id = r.language_id where r.person_id = :person";
    private static final String GIVE =
            """
            insert into person_right (person_id, language_id, level) values (:person, :language, :level)
            on conflict (person_id, language_id) do update set level = excluded.level
            """;

    /** Someone who was away for an hour comes back to news; seen at most once a minute, so that looking costs nothing. */
    private static final String HERE =
            """
            update person set last_here = case when seen_at < cast(:now as timestamptz) - interval '1 hour' then seen_at else coalesce(last_here, created_at) end, seen_at = :now
            where id = :person and (seen_at is null or seen_at < cast(:now as timestamptz) - interval '1 minute')
            """;

    private static final String SAW_NOTICES =
            "update person set bell_seen_at = greatest(bell_seen_at, least(cast(:until as timestamptz), :now)) where id = :person";

    private final PersonRepository people;
    private final LanguageService languages;
    private final JdbcClient jdbc;
    private final PasswordEncoder passwords;
    private final Clock clock;

    PeopleService(
            PersonRepository people,
            LanguageService languages,
            JdbcClient jdbc,
            PasswordEncoder passwords,
            Clock clock) {
        this.people = people;
        this.languages = languages;
        this.jdbc = jdbc;
        this.passwords = passwords;
        this.clock = clock;
    }

    /** Adds a person; their number. */
    @Transactional
    public long add(String signIn, String name, String password, boolean coordinator) {
        Person person = new Person(
                signIn.toLowerCase(Locale.ROOT),
                name,
                String.valueOf(passwords.encode(password)),
                coordinator,
                clock.instant());
        return people.saveAndFlush(person).id();
    }

    /** Gives a person a right in a language, in place of the one they had. */
    @Transactional
    public void give(long person, LanguageTag language, Level level) {
        jdbc.sql(GIVE)
                .param("person", person)
                .param("language", languages.number(language))
                .param("level", level.word())
                .update();
    }

    /** What the person may do now; nothing when their access has ended. */
    @Transactional(readOnly = true)
    public Rights rights(long person) {
        Person found = people.findById(person)
                .filter(Person::active)
                .orElseThrow(() -> Refusal.forbidden("access-ended", "Your access has ended; ask a coordinator."));
        Map<LanguageTag, Level> levels = new HashMap<>();
        jdbc.sql(RIGHTS).param("person", person).query(row -> {
            levels.put(
                    new LanguageTag(row.getString("tag")),
                    Level.valueOf(row.getString("level").toUpperCase(Locale.ROOT)));
        });
        return new Rights(person, found.coordinator(), Map.copyOf(levels));
    }

    /** Who signs in with that name, if anyone does. */
    @Transactional(readOnly = true)
    public Optional<SignedIn> find(String signIn) {
        return people.findBySignIn(signIn.toLowerCase(Locale.ROOT))
                .filter(Person::active)
                .map(PeopleService::signedIn);
    }

    /**
     * The person, when the password is theirs. Takes as long for an unknown name as for a wrong password, and holds no connection while the password is
     * looked at.
     */
    Optional<Door.Entering> authenticate(String signIn, String password) {
        Optional<Person> person =
                people.findBySignIn(signIn.strip().toLowerCase(Locale.ROOT)).filter(Person::active);
        boolean right =
                passwords.matches(password, person.map(Person::passwordHash).orElse(NOBODYS_HASH));
        return person.filter(known -> right).map(known -> new Door.Entering(signedIn(known), known.door()));
    }

    /** Notes that the person is here. */
    @Transactional
    public void here(long person) {
        jdbc.sql(HERE)
                .param("now", clock.instant().atOffset(ZoneOffset.UTC))
                .param("person", person)
                .update();
    }

    /** The person has seen their notices up to {@code until}, which is not later than now. */
    @Transactional
    public void sawNotices(long person, Instant until) {
        jdbc.sql(SAW_NOTICES)
                .param("until", until.atOffset(ZoneOffset.UTC))
                .param("now", clock.instant().atOffset(ZoneOffset.UTC))
                .param("person", person)
                .update();
    }

    /** Until when the person was here the last time before this one; when they were added if they never were. */
    @Transactional(readOnly = true)
    public Instant lastHere(long person) {
        return jdbc.sql("select coalesce(last_here, created_at) from person where id = :person")
                .param("person", person)
                .query(Timestamp.class)
                .single()
                .toInstant();
    }

    /** Names by number. */
    @Transactional(readOnly = true)
    public Map<Long, String> names() {
        Map<Long, String> names = new HashMap<>();
        people.findAll().forEach(person -> names.put(person.id(), person.name()));
        return names;
    }

    /** Whether anybody can sign in yet. */
    @Transactional(readOnly = true)
    public boolean isEmpty() {
        return people.count() == 0;
    }

    private static SignedIn signedIn(Person person) {
        return new SignedIn(person.id(), person.signIn(), person.name());
    }
}
