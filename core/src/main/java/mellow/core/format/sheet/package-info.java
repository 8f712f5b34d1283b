/** Knows what the columns of a sheet of texts mean, whatever file the sheet is in. Must not know any one file format. */
@NullMarked
package mellow.core.format.sheet;

import org.jspecify.annotations.NullMarked;
