/** Knows how words are found and replaced in a text without harm to its placeholders. Knows nothing of tables. */
@NullMarked
package mellow.core.replace;

import org.jspecify.annotations.NullMarked;
