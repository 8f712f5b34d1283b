/** What pictures and sounds are and what their names say: kinds of files, sizes and lengths, drawings without what runs, names of entries and languages. */
@NullMarked
@Uses({"format", "format.source", "format.xml", "language"})
package mellow.core.asset;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
