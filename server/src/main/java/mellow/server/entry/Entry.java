package mellow.server.entry;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.SequenceGenerator;
import jakarta.persistence.Version;
import java.time.Instant;
import java.util.List;
import java.util.Objects;
import mellow.core.text.Shape;
import mellow.core.text.Text;
import mellow.core.text.WordCount;
import mellow.server.common.TextColumns;
import org.jspecify.annotations.Nullable;

/** One thing to say. */
@Entity
class Entry {

    @Id
    @GeneratedValue(strategy = GenerationType.SEQUENCE, generator = "entry_seq")
    @SequenceGenerator(name = "entry_seq", sequenceName = "entry_seq", allocationSize = 1)
    private @Nullable Long id;

    private long tableId;
    private double position;
    private String key = "";
    private String context = "";
    private String source = "";
    private @Nullable String sourceForms;
    private @Nullable String sourceFolded;
    private String note = "";
    private @Nullable String noteFolded;
    private String reference = "";
    private String section = "";
    private int maxLength;
    private int maxLines;
    private int maxWidth;
    private String[] tags = {};
    private String shape = Shape.PLAIN.word();
    private boolean translatable = true;
    private @Nullable Long pictureId;
    private int sourceRevision = 1;
    private int meaningRevision = 1;
    private int words;
    private Instant changedAt = Instant.EPOCH;
    private @Nullable Instant removedAt;

    @Version
    private int version;

    protected Entry() {}

    Entry(long tableId, Shape shape) {
        this.tableId = tableId;
        this.shape = shape.word();
    }

    void describe(Description description) {
        key = description.key().strip();
        context = description.context().strip();
        note = description.note();
        noteFolded = TextColumns.foldedOrNull(note);
        reference = description.reference();
        section = description.section().strip();
        maxLength = description.maxLength();
        maxLines = description.maxLines();
        maxWidth = Objects.requireNonNullElse(description.maxWidth(), 0);
        tags = description.tags().stream()
                .map(String::strip)
                .filter(tag -> !tag.isEmpty())
                .distinct()
                .toArray(String[]::new);
        translatable = description.translatable();
    }

    Description description() {
        return new Description(
                key, context, note, reference, section, maxLength, maxLines, maxWidth, List.of(tags), translatable);
    }

    /** Sets the source without a new revision. */
    void say(Text text) {
        TextColumns columns = TextColumns.of(text);
        source = text.main();
        sourceForms = columns.forms();
        sourceFolded = columns.folded();
        words = WordCount.of(source);
    }

    /** Rewrites the source. */
    void rewrite(Text text, int meaning) {
        say(text);
        sourceRevision++;
        meaningRevision = meaning;
    }

    Text sourceText() {
        return TextColumns.read(source, sourceForms).orElseThrow();
    }

    /** Everything that an undo may have to put back. */
    Snapshot snapshot() {
        return new Snapshot(
                tableId, position, description(), sourceText().forms(), meaningRevision, pictureId, removedAt != null);
    }

    void place(long table, double at) {
        tableId = table;
        position = at;
    }

    void remove(@Nullable Instant at) {
        removedAt = at;
    }

    void picture(@Nullable Long file) {
        pictureId = file;
    }

    void changed(Instant at) {
        changedAt = at;
    }

    long id() {
        return Objects.requireNonNull(id, "not saved yet");
    }

    /** Its number, 0 before it is saved. */
    long idOrNone() {
        return id == null ? 0 : id;
    }

    long tableId() {
        return tableId;
    }

    double position() {
        return position;
    }

    String key() {
        return key;
    }

    String context() {
        return context;
    }

    String source() {
        return source;
    }

    Shape shape() {
        return Shape.of(shape).orElseThrow();
    }

    @Nullable
    Long pictureId() {
        return pictureId;
    }

    int sourceRevision() {
        return sourceRevision;
    }

    int meaningRevision() {
        return meaningRevision;
    }

    Instant changedAt() {
        return changedAt;
    }

    boolean removed() {
        return removedAt != null;
    }

    int version() {
        return version;
    }
}
