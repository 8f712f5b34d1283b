/** Knows how wide a text is in a font, where its lines break and which of its letters the font or a character set lacks. Knows nothing of entries, tables or files. */
@NullMarked
@Uses({})
package mellow.core.fit;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
