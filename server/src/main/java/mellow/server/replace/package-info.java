/** Finds and replaces words over a scope. */
@NullMarked
@Uses({"common", "language", "sheet"})
package mellow.server.replace;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
