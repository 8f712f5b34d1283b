package mellow.server.check;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.Collections;
import java.util.SortedMap;
import mellow.core.check.Measure;
import mellow.core.text.Shape;
import mellow.server.common.TextColumns;
import org.jspecify.annotations.Nullable;

/** What a text is measured by, out of the columns of its entry. */
public final class MeasureColumns {

    /** The columns, of an entry that is called {@code e} in the query. */
    public static final String OF_ENTRY = "e.source, e.source_forms, e.shape, e.max_length, e.max_lines, e.max_width";

    private MeasureColumns() {}

    /** Reads them. */
    public static Measure read(ResultSet row) throws SQLException {
        return new Measure(
                Shape.of(row.getString("shape")).orElseThrow(),
                source(row.getString("source"), row.getString("source_forms")),
                row.getInt("max_length"),
                row.getInt("max_lines"),
                row.getInt("max_width"));
    }

    /** The source of an entry by form; none for an entry that says nothing. */
    static SortedMap<String, String> source(String source, @Nullable String forms) {
        return source.isEmpty() && forms == null ? Collections.emptySortedMap() : TextColumns.allForms(source, forms);
    }
}
