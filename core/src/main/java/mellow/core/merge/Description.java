package mellow.core.merge;

import java.util.Collections;
import java.util.EnumMap;
import java.util.EnumSet;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import mellow.core.format.FileEntry;
import mellow.core.format.FileReading;
import mellow.core.format.FileReading.Field;
import org.jspecify.annotations.Nullable;

/**
 * What is said of an entry beside its texts, field by field.
 *
 * @param fields the fields that are spoken of, "" for one that is empty; a limit in decimal digits
 */
public record Description(Map<Field, String> fields) {

    /** Nothing is said. */
    public static final Description NONE = new Description(Map.of());

    /** What tells entries apart is none of them. */
    private static final Set<Field> DESCRIBING =
            Collections.unmodifiableSet(EnumSet.complementOf(EnumSet.of(Field.CONTEXT)));

    public Description {
        fields = fields.isEmpty() ? Map.of() : Collections.unmodifiableMap(new EnumMap<>(fields));
    }

    /** What the record says. */
    static Description of(RecordEntry entry) {
        return of(DESCRIBING, entry.note(), entry.reference(), entry.section(), entry.maxLength());
    }

    /** What a file says, in the fields that it has. */
    static Description of(FileReading file, FileEntry entry) {
        Set<Field> spoken = EnumSet.noneOf(Field.class);
        DESCRIBING.stream().filter(file::has).forEach(spoken::add);
        return of(spoken, entry.note(), entry.reference(), entry.section(), entry.maxLength());
    }

    private static Description of(Set<Field> spoken, String note, String reference, String section, int limit) {
        Map<Field, String> fields = new EnumMap<>(Field.class);
        for (Field field : spoken) {
            fields.put(
                    field,
                    switch (field) {
                        case NOTE -> note;
                        case REFERENCE -> reference;
                        case SECTION -> section;
                        case LIMIT -> limit == 0 ? "" : Integer.toString(limit);
                        case CONTEXT -> throw new IllegalArgumentException("a context describes nothing");
                    });
        }
        return new Description(fields);
    }

    /**
     * What a file brings, decided for every field by itself.
     *
     * @param taken fields that only the file changed, with what it says
     * @param conflicting fields that differ and were changed on both sides, or where nothing tells who moved, with what the file says
     */
    record Decided(Description taken, Description conflicting) {}

    /**
     * Decides three ways. A field that the file does not have, or never had and has not now, says nothing.
     *
     * @param base what the file said last time, null when it was never taken in
     * @param mine what the record says
     * @param theirs what the file says
     */
    static Decided decide(@Nullable Description base, Description mine, Description theirs) {
        Map<Field, String> taken = new EnumMap<>(Field.class);
        Map<Field, String> conflicting = new EnumMap<>(Field.class);
        theirs.fields.forEach((field, now) -> {
            String here = mine.fields.getOrDefault(field, "");
            String then = base == null ? null : base.fields.get(field);
            boolean silent = then == null ? now.isEmpty() : now.equals(then);
            if (!silent && !now.equals(here)) {
                boolean untouched = then == null ? here.isEmpty() : here.equals(then);
                (untouched ? taken : conflicting).put(field, now);
            }
        });
        return new Decided(new Description(taken), new Description(conflicting));
    }

    /** Whether nothing is said. */
    public boolean isEmpty() {
        return fields.isEmpty();
    }

    /** The limit in characters that is said, or {@code otherwise} where none is. */
    int limitOr(int otherwise) {
        String limit = fields.get(Field.LIMIT);
        return limit == null ? otherwise : limit.isEmpty() ? 0 : Integer.parseInt(limit);
    }

    /** The same fields of another description. */
    Description in(Description other) {
        Map<Field, String> same = new EnumMap<>(Field.class);
        fields.keySet().forEach(field -> same.put(field, other.fields.getOrDefault(field, "")));
        return new Description(same);
    }

    /** The fields that say something, as people read them: a line each. */
    public String shown() {
        return fields.entrySet().stream()
                .filter(field -> !field.getValue().isEmpty())
                .map(field -> field.getKey().word() + ": " + field.getValue())
                .collect(Collectors.joining("\n"));
    }
}
