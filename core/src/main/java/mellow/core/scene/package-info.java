/** Reads scenes, which are drawings of a product with places that show entries, and leaves in them only what draws. Knows nothing of the record. */
@NullMarked
@Uses({"format", "format.source", "format.xml", "language", "placeholder"})
package mellow.core.scene;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
