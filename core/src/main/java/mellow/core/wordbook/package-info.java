/** Knows where agreed terms and words to avoid stand in a text. Knows nothing of where the wordbook is kept. */
@NullMarked
@Uses({})
package mellow.core.wordbook;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
