/** Knows where agreed terms and words to avoid stand in a text. Knows nothing of where the wordbook is kept. */
@NullMarked
package mellow.core.wordbook;

import org.jspecify.annotations.NullMarked;
