/** Knows what can be wrong with a text beside its source and the wordbook. Knows nothing of people, tables or where texts are kept. */
@NullMarked
package mellow.core.check;

import org.jspecify.annotations.NullMarked;
