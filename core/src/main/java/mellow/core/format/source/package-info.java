/** A text file as characters with the bytes they came from, and writing it again with some characters replaced. Knows no format. */
@NullMarked
package mellow.core.format.source;

import org.jspecify.annotations.NullMarked;
