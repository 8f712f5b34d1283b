package mellow.server.people;

import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.Size;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.Instant;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.TreeMap;
import mellow.core.language.LanguageTag;
import mellow.server.common.Refusal;
import mellow.server.language.LanguageService;
import mellow.server.people.Invitations.Invitation;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Who belongs to the ledger: adding people, inviting them by a link, changing and ending what they may do. There is always a coordinator. */
@Service
class PeopleDesk {

    private static final int SHORTEST_PASSWORD = 10;
    /** BCrypt looks at no more than 72 bytes. */
    private static final int LONGEST_PASSWORD_BYTES = 72;

    private static final String ALL_RIGHTS =
            "select r.person_id, l.tag, r.level from person_right r join language l on l.id = r.language_id order by l.tag";
    private final PersonRepository people;
    private final PeopleService rights;
    private final LanguageService languages;
    private final JdbcClient jdbc;
    private final PasswordEncoder passwords;
    private final Doors doors;
    private final Invitations invitations;
    private final Clock clock;

    PeopleDesk(
            PersonRepository people,
            PeopleService rights,
            LanguageService languages,
            JdbcClient jdbc,
            PasswordEncoder passwords,
            Doors doors,
            Invitations invitations,
            Clock clock) {
        this.people = people;
        this.rights = rights;
        this.languages = languages;
        this.jdbc = jdbc;
        this.passwords = passwords;
        this.doors = doors;
        this.invitations = invitations;
        this.clock = clock;
    }

    /**
     * A person as they shall be.
     *
     * @param signIn the name they sign in with: small letters, digits, dot, dash, underscore
     * @param levels by language tag: reader, contributor or reviewer
     */
    record Definition(
            @NotBlank
                    @Pattern(
                            regexp = "[\\p{Ll}0-9._-]{2,60}",
                            message = "small letters, digits, . - _; 2 to 60 of them")
                    String signIn,
            @NotBlank @Size(max = 120) String name,
            boolean coordinator,
            @NotNull Map<String, String> levels) {}

    /**
     * A person as screens show them.
     *
     * @param signIn the name they sign in with, null where it is nobody's business
     * @param active false when their access has ended
     * @param invitedUntil until when an invitation waits for them, null for none
     * @param seenAt when they were last here, null for never
     */
    record PersonRow(
            long id,
            @Nullable String signIn,
            String name,
            boolean coordinator,
            TreeMap<String, String> levels,
            boolean active,
            @Nullable Instant invitedUntil,
            @Nullable Instant seenAt) {

        PersonRow withoutPrivate() {
            return new PersonRow(id, null, name, coordinator, levels, active, null, null);
        }
    }

    @Transactional(readOnly = true)
    public List<PersonRow> shown(long to) {
        return rights.rights(to).coordinator()
                ? all()
                : all().stream()
                        .map(row -> row.id() == to ? row : row.withoutPrivate())
                        .toList();
    }

    @Transactional(readOnly = true)
    public List<PersonRow> all() {
        Map<Long, TreeMap<String, String>> levels = new HashMap<>();
        jdbc.sql(ALL_RIGHTS).query(row -> {
            levels.computeIfAbsent(row.getLong("person_id"), p -> new TreeMap<>())
                    .put(row.getString("tag"), row.getString("level"));
        });
        Map<Long, Instant> invited = invitations.waiting();
        return people.findAll().stream()
                .sorted(Comparator.comparing(Person::active)
                        .reversed()
                        .thenComparing(Person::name, String.CASE_INSENSITIVE_ORDER))
                .map(person -> new PersonRow(
                        person.id(),
                        person.signIn(),
                        person.name(),
                        person.coordinator(),
                        levels.getOrDefault(person.id(), new TreeMap<>()),
                        person.active(),
                        invited.get(person.id()),
                        person.seenAt()))
                .toList();
    }

    /** Adds a person who cannot sign in before they follow the invitation. */
    @Transactional
    public Invitation add(long by, Definition wanted) {
        requireCoordinator(by);
        String signIn = wanted.signIn().strip().toLowerCase(Locale.ROOT);
        if (people.findBySignIn(signIn).isPresent()) {
            throw Refusal.conflict(
                    "name-taken",
                    "Someone signs in as “{signIn}” already; choose another name.",
                    Map.of("field", "signIn", "signIn", signIn));
        }
        // No password matches this, so only the invitation opens the door.
        Person person = new Person(signIn, wanted.name().strip(), "!", wanted.coordinator(), clock.instant());
        long id = people.saveAndFlush(person).id();
        give(id, wanted.levels());
        return invitations.make(by, id);
    }

    /** Makes a new invitation, also for someone who forgot their password; earlier ones no longer hold. */
    @Transactional
    public Invitation invite(long by, long id) {
        requireCoordinator(by);
        Person person = person(id);
        if (!person.active()) {
            throw Refusal.unacceptable(
                    "access-ended",
                    "{person}’s access has ended; give it back first.",
                    Map.of("person", person.name()));
        }
        return invitations.make(by, id);
    }

    /** Changes a person's name and rights; the sign-in name stays. */
    @Transactional
    public void edit(long by, long id, Definition wanted) {
        requireCoordinator(by);
        List<Long> coordinators = holdCoordinators(by);
        Person person = person(id);
        if (person.coordinator() && !wanted.coordinator()) {
            requireAnother(coordinators, person);
        }
        person.become(wanted.name().strip(), wanted.coordinator());
        jdbc.sql("delete from person_right where person_id = :person")
                .param("person", id)
                .update();
        give(id, wanted.levels());
    }

    /** Ends a person's access at once, on every device. What they did stays. */
    @Transactional
    public void end(long by, long id) {
        requireCoordinator(by);
        List<Long> coordinators = holdCoordinators(by);
        Person person = person(id);
        if (person.coordinator()) {
            requireAnother(coordinators, person);
        }
        person.end(clock.instant());
        endSessions(person);
        invitations.use(id);
        doors.moved();
    }

    /** Gives an ended access back, with the rights it had. */
    @Transactional
    public void resume(long by, long id) {
        requireCoordinator(by);
        person(id).end(null);
    }

    /** Whom an invitation is for. */
    @Transactional
    public PersonRow invited(String token) {
        long id = invitations.open(token);
        return all().stream().filter(row -> row.id() == id).findFirst().orElseThrow();
    }

    /** Takes an invitation: sets the password. */
    @Transactional
    public Door.Entering accept(String token, String password) {
        long id = invitations.open(token);
        if (password.codePointCount(0, password.length()) < SHORTEST_PASSWORD
                || password.getBytes(StandardCharsets.UTF_8).length > LONGEST_PASSWORD_BYTES) {
            throw Refusal.unacceptable(
                    "bad-password",
                    "A password needs at least {least} characters and at most {most} bytes.",
                    Map.of("field", "password", "least", SHORTEST_PASSWORD, "most", LONGEST_PASSWORD_BYTES));
        }
        Person person = person(id);
        person.password(Objects.requireNonNull(passwords.encode(password)));
        invitations.use(id);
        endSessions(person);
        return new Door.Entering(new SignedIn(id, person.signIn(), person.name()), person.door());
    }

    private void endSessions(Person person) {
        jdbc.sql("delete from spring_session where principal_name = :name")
                .param("name", person.signIn())
                .update();
    }

    private void give(long person, Map<String, String> levels) {
        levels.forEach((tag, word) -> {
            LanguageTag language = languages.parse(tag);
            Level level = level(word)
                    .orElseThrow(() -> Refusal.unacceptable(
                            "unknown-level",
                            "A right is reader, contributor or reviewer, not “{said}”.",
                            Map.of("field", "levels", "said", word)));
            rights.give(person, language, level);
        });
    }

    private static Optional<Level> level(String word) {
        return Arrays.stream(Level.values())
                .filter(level -> level.word().equals(word))
                .findFirst();
    }

    /** Two coordinators who end each other at the same moment take turns; the second is none any more. Reads the database, not what was read before. */
    private List<Long> holdCoordinators(long by) {
        List<Long> active = jdbc.sql(
                        "select id from person where coordinator and ended_at is null order by id for update")
                .query(Long.class)
                .list();
        if (!active.contains(by)) {
            throw Refusal.forbidden("access-ended", "Your access has ended; ask a coordinator.");
        }
        return active;
    }

    private static void requireAnother(List<Long> coordinators, Person person) {
        if (coordinators.stream().allMatch(id -> id == person.id())) {
            throw Refusal.unacceptable(
                    "last-coordinator",
                    "{person} is the last coordinator; make someone else one first.",
                    Map.of("field", "coordinator", "person", person.name()));
        }
    }

    private void requireCoordinator(long by) {
        rights.rights(by).requireCoordinator("change people and their rights");
    }

    private Person person(long id) {
        return people.findById(id).orElseThrow(() -> Refusal.notFound("no-such-person", "There is no such person."));
    }
}
