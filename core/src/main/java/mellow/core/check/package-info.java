/** Knows what can be wrong with a text beside its source and the wordbook. Knows nothing of people, tables or where texts are kept. */
@NullMarked
@Uses({"asset", "fit", "language", "placeholder", "text", "wordbook"})
package mellow.core.check;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
