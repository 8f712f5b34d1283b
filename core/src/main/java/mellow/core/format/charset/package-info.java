/** Knows which character set a text file is in, and whether its bytes are valid in it. Must not know what the text means. */
@NullMarked
@Uses("format")
package mellow.core.format.charset;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
