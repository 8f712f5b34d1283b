/**
 * Knows what every file format shares: problems with places, limits, character sets, the entry as a file gives it. Must not know any one format,
 * nor what the record holds.
 */
@NullMarked
@Uses({"language", "text"})
package mellow.core.format;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
