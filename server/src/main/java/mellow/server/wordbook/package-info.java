/** Agreed terms, their translations and words to avoid. */
@NullMarked
@Uses({"common", "language", "people"})
package mellow.server.wordbook;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
