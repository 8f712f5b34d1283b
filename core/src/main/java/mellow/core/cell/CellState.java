package mellow.core.cell;

/** The displayed state of a cell: the first in this order that holds. Exactly one holds, so the states of a scope add up to its size. */
public enum CellState {
    OFFERED,
    RETURNED,
    STALE,
    SETTLED,
    PENCILLED,
    UNTRANSLATED;

    /** The name in addresses, files and the HTTP interface: lower case. */
    public String word() {
        return name().toLowerCase(java.util.Locale.ROOT);
    }
}
