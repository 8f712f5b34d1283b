package mellow.server.cell;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import mellow.core.check.Measure;
import mellow.core.text.Shape;
import mellow.server.common.TextColumns;
import org.hibernate.annotations.Immutable;
import org.jspecify.annotations.Nullable;

/** An entry as far as changing its cells needs it. */
@Entity
@Immutable
@Table(name = "entry")
class EntryRow {

    @Id
    private long id;

    private long tableId;
    private String key = "";
    private String source = "";
    private @Nullable String sourceForms;
    private String shape = "";
    private int maxLength;
    private int maxLines;
    private int maxWidth;
    private int sourceRevision;
    private int meaningRevision;
    private int words;
    private boolean translatable;
    private @Nullable Instant removedAt;

    protected EntryRow() {}

    long id() {
        return id;
    }

    long tableId() {
        return tableId;
    }

    String key() {
        return key;
    }

    String source() {
        return source;
    }

    /** What its texts are measured by. */
    Measure measure() {
        return new Measure(shape(), TextColumns.allForms(source, sourceForms), maxLength, maxLines, maxWidth);
    }

    Shape shape() {
        return Shape.of(shape).orElseThrow();
    }

    int sourceRevision() {
        return sourceRevision;
    }

    int meaningRevision() {
        return meaningRevision;
    }

    int words() {
        return words;
    }

    boolean translatable() {
        return translatable;
    }

    boolean counts() {
        return translatable && removedAt == null;
    }

    boolean removed() {
        return removedAt != null;
    }
}
