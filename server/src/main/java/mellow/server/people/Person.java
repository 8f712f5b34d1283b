package mellow.server.people;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import java.time.Instant;
import java.util.Objects;
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

    /** Grows when all sessions of the person shall end, those that are just being opened too. */
    private int door;

    @Column(insertable = false, updatable = false)
    private @Nullable Instant seenAt;

    protected Person() {}

    Person(String signIn, String name, String passwordHash, boolean coordinator, Instant createdAt) {
        this.signIn = signIn;
        this.name = name;
        this.passwordHash = passwordHash;
        this.coordinator = coordinator;
        this.createdAt = createdAt;
    }

    long id() {
        return Objects.requireNonNull(id, "not saved yet");
    }

    void become(String newName, boolean newCoordinator) {
        name = newName;
        coordinator = newCoordinator;
    }

    /** Sets a password; whoever is signed in with another is not any more. */
    void password(String hash) {
        passwordHash = hash;
        door++;
    }

    void end(@Nullable Instant at) {
        endedAt = at;
        door++;
    }

    int door() {
        return door;
    }

    @Nullable
    Instant seenAt() {
        return seenAt;
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
