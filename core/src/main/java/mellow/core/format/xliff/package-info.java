/** XLIFF 1.2 and 2.0/2.1 (OASIS). Inline elements stand in texts as the file spells them and come back as elements. */
@NullMarked
@Uses({"format", "format.inline", "format.source", "format.xml", "language", "text"})
package mellow.core.format.xliff;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
