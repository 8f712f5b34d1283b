/**
 * The record's tables: cells, entries, offers and their stories. Writes what changes by the thousand and puts it back, tells stories, computes states in SQL, and
 * streams a whole table with its cells. Single edits are made by cell and entry, through entities with versions.
 */
@NullMarked
@Uses({"common", "language"})
package mellow.server.record;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
