/** Memory and wordbooks of other programs: TMX 1.4b and TBX (ISO 30042, basic). Read and written fresh. */
@NullMarked
package mellow.core.format.memory;

import org.jspecify.annotations.NullMarked;
