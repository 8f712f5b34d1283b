/** Tables and the languages they are kept in. */
@NullMarked
@Uses({"common", "coverage", "language", "live", "people"})
package mellow.server.table;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
