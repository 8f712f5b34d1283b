/** Sending a table out: fresh files, files in place, whole sets. */
@NullMarked
@Uses({"common", "language", "master", "people", "record", "sheet", "table"})
package mellow.server.export;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
