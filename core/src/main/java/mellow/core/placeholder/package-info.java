/** Placeholders in texts, whatever program fills them: parsed once into values that checks, the sheet, memory and pseudo-language share. */
@NullMarked
@Uses({})
package mellow.core.placeholder;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
