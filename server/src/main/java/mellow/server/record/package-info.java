/** Streams a whole table with its cells, for comparing with a file and for writing one. */
@NullMarked
@Uses({"common", "language"})
package mellow.server.record;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
