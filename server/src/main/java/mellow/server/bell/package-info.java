/** Notices: what waits for someone, and what became of what they did. */
@NullMarked
@Uses({"common", "language", "people"})
package mellow.server.bell;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
