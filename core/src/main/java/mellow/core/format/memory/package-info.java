/** Memory and wordbooks of other programs: TMX 1.4b and TBX (ISO 30042, basic). Read and written fresh. */
@NullMarked
@Uses({"format", "format.inline", "format.source", "format.xliff", "format.xml", "language"})
package mellow.core.format.memory;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
