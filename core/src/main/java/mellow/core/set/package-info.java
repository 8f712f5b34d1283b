/**
 * Knows which files are one table in several languages, and reads them as one. Must not know storage, rights or what is decided about a text.
 */
@NullMarked
@Uses({"format", "language", "text"})
package mellow.core.set;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
