/** JSON (RFC 8259) with a text per key, flat or nested. */
@NullMarked
@Uses({"format", "format.source", "format.tree", "language", "text"})
package mellow.core.format.json;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
