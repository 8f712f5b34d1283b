/** XLIFF 1.2 and 2.0/2.1 (OASIS). Inline elements stand in texts as the file spells them and come back as elements. */
@NullMarked
package mellow.core.format.xliff;

import org.jspecify.annotations.NullMarked;
