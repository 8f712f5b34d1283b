/** How alike sources are, an index of a million of them, and how a text for one becomes one for another. Knows nothing of where settled texts are kept. */
@NullMarked
@Uses({"language", "placeholder"})
package mellow.core.memory;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
