/** Finds entries by key, source, note and text, and people by name. */
@NullMarked
@Uses({"common", "language", "people", "record"})
package mellow.server.find;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
