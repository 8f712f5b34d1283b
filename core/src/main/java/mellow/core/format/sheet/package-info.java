/** Knows what the columns of a sheet of texts mean, whatever file the sheet is in. Must not know any one file format. */
@NullMarked
@Uses({"format", "language"})
package mellow.core.format.sheet;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
