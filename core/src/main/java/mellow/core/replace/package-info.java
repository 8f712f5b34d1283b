/** Knows how words are found and replaced in a text without harm to its placeholders. Knows nothing of tables. */
@NullMarked
@Uses("placeholder")
package mellow.core.replace;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
