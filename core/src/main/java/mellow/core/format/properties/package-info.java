/** Java properties, as {@code java.util.Properties} reads them, in UTF-8 or Latin-1 with escapes. */
@NullMarked
package mellow.core.format.properties;

import org.jspecify.annotations.NullMarked;
