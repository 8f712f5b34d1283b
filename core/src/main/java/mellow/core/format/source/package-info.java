/** A text file as characters with the bytes they came from, and writing it again with some characters replaced. Knows no format. */
@NullMarked
@Uses({"format", "format.charset", "language", "text"})
package mellow.core.format.source;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
