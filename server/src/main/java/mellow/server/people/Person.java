package mellow.server.people;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/** Someone who may sign in. */
@Entity
class Person {

    @Id
    @GeneratedValue(strategy = GenerationType.IDENTITY)
    private @Nullable Long id;

    private String signIn = "";
    private String name = "";
    private String passwordHash = "";
    private boolean coordinator;
    private Instant createdAt = Instant.EPOCH;
    private @Nullable Instant endedAt;

    protected Person() {}

    Person(String signIn, String name, String passwordHash, boolean coordinator, Instant createdAt) {
        this.signIn = signIn;
        this.name = name;
        this.passwordHash = passwordHash;
        this.coordinator = coordinator;
        this.createdAt = createdAt;
    }

    long id() {
        return java.util.Objects.requireNonNull(id, "not saved yet");
    }

    String name() {
        return name;
    }

    String signIn() {
        return signIn;
    }

    String passwordHash() {
        return passwordHash;
    }

    boolean coordinator() {
        return coordinator;
    }

    boolean active() {
        return endedAt == null;
    }

    Instant createdAt() {
        return createdAt;
    }
}
