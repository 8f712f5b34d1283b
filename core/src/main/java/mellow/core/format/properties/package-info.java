/** Java properties, as {@code java.util.Properties} reads them, in UTF-8 or Latin-1 with escapes. */
@NullMarked
@Uses({"format", "format.charset", "format.source", "language"})
package mellow.core.format.properties;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
