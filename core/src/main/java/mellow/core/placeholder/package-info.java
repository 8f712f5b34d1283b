/** Placeholders in texts, whatever program fills them: parsed once into values that checks, the sheet, memory and pseudo-language share. */
@NullMarked
package mellow.core.placeholder;

import org.jspecify.annotations.NullMarked;
