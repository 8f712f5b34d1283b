package mellow.server.sheet;

import java.util.List;
import java.util.Set;
import mellow.core.cell.CellState;
import mellow.core.language.LanguageTag;
import org.jspecify.annotations.Nullable;

/**
 * What one is looking at.
 *
 * @param table the table's name in addresses
 * @param languages the languages shown
 * @param only show an entry when its cell in one of these languages is in one of these states; all entries when empty
 * @param order how entries are ordered
 * @param words show only entries with these words in key, source or a shown text; null for all
 * @param intake show only entries that this intake touched; null for all
 */
record Scope(
        String table,
        List<LanguageTag> languages,
        Set<CellState> only,
        Order order,
        @Nullable String words,
        @Nullable Long intake) {

    enum Order {
        SECTION,
        KEY
    }
}
