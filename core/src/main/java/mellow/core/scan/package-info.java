/** Looks through a product's source code for the keys it uses and for texts that have none. Knows how code is spelled; must not know files on disk, tables or people. */
@NullMarked
@Uses({"placeholder", "text"})
package mellow.core.scan;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
