/** Android string resources: strings, arrays as numbered states, plurals. */
@NullMarked
@Uses({"format", "format.source", "format.xml", "language", "text"})
package mellow.core.format.android;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
