/** Agreed and proposed terms, their translations and words to avoid; where they are used, and their files. */
@NullMarked
@Uses({"common", "file", "language", "people", "table"})
package mellow.server.wordbook;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
