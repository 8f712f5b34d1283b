package mellow.core.check;

/**
 * The same source said differently in one table. One text does not show it: whoever holds the table finds it, and says so by {@link Kind#OTHERWISE}.
 */
final class OtherwiseCheck implements Check {}
