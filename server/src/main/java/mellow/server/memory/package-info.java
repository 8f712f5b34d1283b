/** What was settled for the same or a similar source. */
@NullMarked
@Uses({"common", "language", "live", "people"})
package mellow.server.memory;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
