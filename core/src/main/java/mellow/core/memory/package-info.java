/** Knows how alike two sources are. Knows nothing of where settled texts are kept. */
@NullMarked
@Uses("placeholder")
package mellow.core.memory;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
