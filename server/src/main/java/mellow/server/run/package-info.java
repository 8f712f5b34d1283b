/** Work that takes longer than a second. */
@NullMarked
@Uses("common")
package mellow.server.run;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
