/** Knows how alike two sources are. Knows nothing of where settled texts are kept. */
@NullMarked
package mellow.core.memory;

import org.jspecify.annotations.NullMarked;
