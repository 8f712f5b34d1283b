package mellow.server.cell;

import java.io.Serializable;

/**
 * Identifies a cell.
 *
 * @param entryId the entry
 * @param languageId the language's number
 */
record CellKey(long entryId, int languageId) implements Serializable {}
