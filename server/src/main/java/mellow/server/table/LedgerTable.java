package mellow.server.table;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Version;
import java.time.Instant;
import java.util.Objects;
import org.hibernate.annotations.DynamicUpdate;
import org.jspecify.annotations.Nullable;

/** A named set of entries in one source language. */
@Entity
@DynamicUpdate
class LedgerTable {

    @Id
    @GeneratedValue(strategy = GenerationType.IDENTITY)
    private @Nullable Long id;

    private String slug = "";
    private String name = "";
    private int sourceLanguageId;
    private int entries;
    private long words;
    private Instant createdAt = Instant.EPOCH;
    private @Nullable Instant removedAt;

    @Version
    private int version;

    protected LedgerTable() {}

    LedgerTable(String slug, String name, int sourceLanguage, Instant createdAt) {
        this.slug = slug;
        this.name = name;
        this.sourceLanguageId = sourceLanguage;
        this.createdAt = createdAt;
    }

    long id() {
        return Objects.requireNonNull(id, "not saved yet");
    }

    String slug() {
        return slug;
    }

    String name() {
        return name;
    }

    void rename(String newName) {
        name = newName;
    }

    boolean removed() {
        return removedAt != null;
    }

    @Nullable
    Instant removedAt() {
        return removedAt;
    }

    void remove(Instant at) {
        removedAt = at;
    }

    void putBack() {
        removedAt = null;
    }

    int sourceLanguage() {
        return sourceLanguageId;
    }

    int entries() {
        return entries;
    }

    long words() {
        return words;
    }

    Instant createdAt() {
        return createdAt;
    }

    int version() {
        return version;
    }
}
