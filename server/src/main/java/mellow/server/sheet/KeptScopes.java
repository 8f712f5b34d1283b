package mellow.server.sheet;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.time.Clock;
import java.time.ZoneOffset;
import java.util.List;
import mellow.server.common.Refusal;
import mellow.server.people.SignedIn;
import org.springframework.http.HttpStatus;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Scopes that people gave a name, to come back to them or to show them to others. */
@RestController
@RequestMapping("/api/scopes")
class KeptScopes {

    private static final String KEEP =
            """
            insert into kept_scope (person_id, name, query, shared, created_at) values (:person, :name, :query, :shared, :now)
            on conflict (person_id, name) do update set query = excluded.query, shared = excluded.shared
            returning id
            """;
    private static final String ALL =
            """
            select s.id, s.name, s.query, s.shared, p.name person, s.person_id = :person mine
            from kept_scope s join person p on p.id = s.person_id where s.person_id = :person or s.shared order by mine desc, s.name
            """;

    private final JdbcClient jdbc;
    private final Clock clock;

    KeptScopes(JdbcClient jdbc, Clock clock) {
        this.jdbc = jdbc;
        this.clock = clock;
    }

    /** One's own named scopes, then those that others share. */
    @GetMapping
    List<KeptScope> all(@AuthenticationPrincipal SignedIn me) {
        return jdbc.sql(ALL)
                .param("person", me.id())
                .query((row, n) -> new KeptScope(
                        row.getLong("id"),
                        row.getString("name"),
                        row.getString("query"),
                        row.getBoolean("shared"),
                        row.getString("person"),
                        row.getBoolean("mine")))
                .list();
    }

    /** Keeps a scope under a name; one's own scope of that name is replaced. */
    @PostMapping
    @Transactional
    @ResponseStatus(HttpStatus.CREATED)
    KeptId keep(@Valid @RequestBody NewScope wanted, @AuthenticationPrincipal SignedIn me) {
        return new KeptId(jdbc.sql(KEEP)
                .param("person", me.id())
                .param("name", wanted.name().strip())
                .param("query", wanted.query())
                .param("shared", wanted.shared())
                .param("now", clock.instant().atOffset(ZoneOffset.UTC))
                .query(Long.class)
                .single());
    }

    /** Forgets one's own named scope. */
    @DeleteMapping("/{id}")
    @Transactional
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void forget(@PathVariable long id, @AuthenticationPrincipal SignedIn me) {
        int gone = jdbc.sql("delete from kept_scope where id = :id and person_id = :person")
                .param("id", id)
                .param("person", me.id())
                .update();
        if (gone == 0) {
            throw Refusal.notFound("no-such-scope", "You have no kept scope of this number.");
        }
    }

    /**
     * A scope with a name.
     *
     * @param query its query string
     * @param mine whether it is the asking person's own
     */
    record KeptScope(long id, String name, String query, boolean shared, String person, boolean mine) {}

    record NewScope(@NotBlank @Size(max = 80) String name, @NotNull @Size(max = 2000) String query, boolean shared) {}

    record KeptId(long id) {}
}
