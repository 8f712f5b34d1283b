/** What was settled for the same or a similar source, in the ledger and on shelves. */
@NullMarked
@Uses({"common", "file", "language", "live", "people"})
package mellow.server.memory;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
