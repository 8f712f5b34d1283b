package mellow.server.intake;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Version;
import java.time.Instant;
import java.util.Objects;
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
    private String fileName = "";
    private @Nullable Long tableId;

    @JdbcTypeCode(SqlTypes.JSON)
    private String options = "{}";

    private String status = "open";

    @JdbcTypeCode(SqlTypes.JSON)
    private @Nullable String report;

    private Instant createdAt = Instant.EPOCH;
    private @Nullable Instant appliedAt;
    private int decided;
    private int compared = -1;
    private @Nullable Instant comparedAt;

    @JdbcTypeCode(SqlTypes.JSON)
    private @Nullable String comparison;

    @JdbcTypeCode(SqlTypes.JSON)
    private @Nullable String masterWas;

    @JdbcTypeCode(SqlTypes.JSON)
    private @Nullable String reading;

    private int readingOf = -1;
    private @Nullable String pattern;
    private @Nullable String evidence;
    private boolean madeTable;
    private @Nullable Instant undoneAt;
    private @Nullable Long undoneBy;

    @JdbcTypeCode(SqlTypes.JSON)
    private @Nullable String undoReport;

    @Version
    private int version;

    protected Intake() {}

    Intake(long person, String fileName, String options, Instant createdAt) {
        this.personId = person;
        this.fileName = fileName;
        this.options = options;
        this.createdAt = createdAt;
    }

    long id() {
        return Objects.requireNonNull(id, "not saved yet");
    }

    long person() {
        return personId;
    }

    String fileName() {
        return fileName;
    }

    /** Notes that it is a set: its paths with a place for the language, and what told its source. */
    void ofSet(String paths, String told) {
        pattern = paths;
        evidence = told;
    }

    /** The paths of its files with a place for the language; empty when it is of one file. */
    Optional<String> pattern() {
        return Optional.ofNullable(pattern);
    }

    Optional<String> evidence() {
        return Optional.ofNullable(evidence);
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
        decided++;
    }

    /** Notes a choice about whole kinds of changes; what was compared holds on. */
    void choose(String newOptions) {
        options = newOptions;
    }

    /** Notes that single choices were made that change what else would be done. */
    void compareAnew() {
        boolean known = readingOf == decided;
        decided++;
        readingOf = known ? decided : readingOf;
    }

    /** With which version of what was decided it would be compared now. */
    int decided() {
        return decided;
    }

    /** What came of comparing it, when that still holds; {@code null} when it has to be compared. */
    Optional<String> comparison() {
        return compared == decided ? Optional.ofNullable(comparison) : Optional.empty();
    }

    Optional<Instant> comparedAt() {
        return Optional.ofNullable(comparedAt);
    }

    /** What was read of its only file, as decided now; empty when that is not known. */
    Optional<String> reading() {
        return readingOf == decided ? Optional.ofNullable(reading) : Optional.empty();
    }

    void noteReading(String found) {
        reading = found;
        readingOf = decided;
    }

    boolean open() {
        return status.equals("open");
    }

    String status() {
        return status;
    }

    /**
     * Notes that it was taken in.
     *
     * @param made whether the table was made for it
     * @param before what its paths held before, as JSON
     */
    void applied(long table, String newReport, Instant at, boolean made, @Nullable String before) {
        madeTable = made;
        masterWas = before;
        status = "applied";
        reading = null;
        tableId = table;
        report = newReport;
        appliedAt = at;
    }

    void left() {
        status = "left";
        reading = null;
    }

    void undone(long by, Instant at, String whatCameOfIt) {
        status = "undone";
        undoneBy = by;
        undoneAt = at;
        undoReport = whatCameOfIt;
    }

    boolean applied() {
        return status.equals("applied");
    }

    boolean madeTable() {
        return madeTable;
    }

    Optional<String> masterWas() {
        return Optional.ofNullable(masterWas);
    }

    Optional<Instant> undoneAt() {
        return Optional.ofNullable(undoneAt);
    }

    Optional<Long> undoneBy() {
        return Optional.ofNullable(undoneBy);
    }

    Optional<String> undoReport() {
        return Optional.ofNullable(undoReport);
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
