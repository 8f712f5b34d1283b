/** Services that draft texts: their settings and budgets, and asking them. Nothing here changes a cell. */
@NullMarked
@Uses({"common", "language", "people", "table", "wordbook"})
package mellow.server.draft;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
