package mellow.server.intake;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Version;
import java.time.Instant;
import java.util.Optional;
import org.hibernate.annotations.DynamicUpdate;
import org.hibernate.annotations.JdbcTypeCode;
import org.hibernate.type.SqlTypes;
import org.jspecify.annotations.Nullable;

/** A file on its way into a table. */
@Entity
@DynamicUpdate
class Intake {

    @Id
    @GeneratedValue(strategy = GenerationType.IDENTITY)
    private @Nullable Long id;

    private long personId;
    private long fileId;
    private String fileName = "";
    private @Nullable Long tableId;

    @JdbcTypeCode(SqlTypes.JSON)
    private String options = "{}";

    private String status = "open";

    @JdbcTypeCode(SqlTypes.JSON)
    private @Nullable String report;

    private Instant createdAt = Instant.EPOCH;
    private @Nullable Instant appliedAt;

    @Version
    private int version;

    protected Intake() {}

    Intake(long person, long file, String fileName, String options, Instant createdAt) {
        this.personId = person;
        this.fileId = file;
        this.fileName = fileName;
        this.options = options;
        this.createdAt = createdAt;
    }

    long id() {
        return java.util.Objects.requireNonNull(id, "not saved yet");
    }

    long person() {
        return personId;
    }

    long file() {
        return fileId;
    }

    String fileName() {
        return fileName;
    }

    Optional<Long> table() {
        return Optional.ofNullable(tableId);
    }

    String options() {
        return options;
    }

    void decide(String newOptions, @Nullable Long table) {
        options = newOptions;
        tableId = table;
    }

    boolean open() {
        return status.equals("open");
    }

    String status() {
        return status;
    }

    void applied(long table, String newReport, Instant at) {
        status = "applied";
        tableId = table;
        report = newReport;
        appliedAt = at;
    }

    void left() {
        status = "left";
    }

    Optional<String> report() {
        return Optional.ofNullable(report);
    }

    Instant createdAt() {
        return createdAt;
    }

    Optional<Instant> appliedAt() {
        return Optional.ofNullable(appliedAt);
    }
}
