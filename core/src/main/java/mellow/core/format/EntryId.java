package mellow.core.format;

/**
 * What tells an entry from every other in its table.
 *
 * @param key the key, compared exactly
 * @param context the context, empty for none
 */
public record EntryId(String key, String context) {}
