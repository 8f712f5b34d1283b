package mellow.server.product;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Version;
import java.time.Instant;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/** A game, panel, app or site. */
@Entity
class Product {

    @Id
    @GeneratedValue(strategy = GenerationType.IDENTITY)
    private @Nullable Long id;

    private String slug = "";
    private String name = "";
    private String kind = "";
    private @Nullable Integer startLanguageId;
    private Instant createdAt = Instant.EPOCH;
    private @Nullable Instant removedAt;

    @Version
    private int version;

    protected Product() {}

    Product(String slug, Instant createdAt) {
        this.slug = slug;
        this.createdAt = createdAt;
    }

    void become(String newName, String newKind, @Nullable Integer startLanguage) {
        name = newName;
        kind = newKind;
        startLanguageId = startLanguage;
    }

    void remove(@Nullable Instant at) {
        removedAt = at;
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

    String kind() {
        return kind;
    }

    @Nullable
    Integer startLanguage() {
        return startLanguageId;
    }

    boolean removed() {
        return removedAt != null;
    }

    Instant createdAt() {
        return createdAt;
    }

    int version() {
        return version;
    }
}
