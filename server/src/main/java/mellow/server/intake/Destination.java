package mellow.server.intake;

import jakarta.validation.constraints.Size;
import java.util.EnumMap;
import java.util.Map;
import mellow.core.merge.Arrival;
import mellow.core.merge.ChangeKind;
import mellow.core.merge.Choice;
import org.jspecify.annotations.Nullable;

/**
 * What a person said about where a file goes this time; null is "find it out".
 *
 * @param table the table it goes into, by its name in addresses
 * @param newTable or the name of a table to be made
 * @param source the source language of a table to be made
 * @param settlesOwn whether reviewers may settle their own texts in a table to be made
 * @param arrival what arrives as: SETTLED, OFFERED or PENCILLED
 * @param choices what is done about whole kinds of changes; others are done as usual
 */
record Destination(
        @Nullable String table,
        @Nullable @Size(max = 200) String newTable,
        @Nullable String source,
        boolean settlesOwn,
        @Nullable Arrival arrival,
        @Nullable Map<ChangeKind, Choice> choices) {

    static final Destination UNDECIDED = new Destination(null, null, null, false, null, null);

    Map<ChangeKind, Choice> decisions() {
        return choices == null ? Map.of() : choices;
    }

    /** The same into a table that is there, or one to be made. */
    Destination into(@Nullable String slug, @Nullable String made, @Nullable Arrival arriving) {
        return new Destination(slug, made, source, settlesOwn, arriving, choices);
    }

    /** The same from a source language. */
    Destination from(String tag) {
        return new Destination(table, newTable, tag, settlesOwn, arrival, choices);
    }

    /** The same with other decisions about whole kinds of changes. */
    Destination choosing(Map<ChangeKind, Choice> all) {
        return new Destination(table, newTable, source, settlesOwn, arrival, all);
    }

    /** The same with one kind of change decided. */
    Destination choosing(ChangeKind kind, Choice choice) {
        Map<ChangeKind, Choice> all = new EnumMap<>(ChangeKind.class);
        all.putAll(decisions());
        all.put(kind, choice);
        return choosing(all);
    }
}
