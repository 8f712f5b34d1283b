/** Fills what is untranslated from what was settled elsewhere: what it would do, to be looked at. */
@NullMarked
@Uses({"common", "language", "memory", "people", "sheet"})
package mellow.server.fill;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
