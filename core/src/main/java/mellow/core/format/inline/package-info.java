/**
 * Knows the inline codes of XLIFF 1.2, XLIFF 2 and TMX as one value, and how each of them expresses the others'. Knows characters of XML and nothing else
 * of formats.
 */
@NullMarked
@Uses("format.xml")
package mellow.core.format.inline;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
