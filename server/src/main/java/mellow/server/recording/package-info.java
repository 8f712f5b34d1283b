/** Sounds that speak the texts of other entries: which line each speaks, and that it is stale once the line is rewritten. */
@NullMarked
@Uses({"common", "coverage", "live", "people", "record", "table"})
package mellow.server.recording;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
