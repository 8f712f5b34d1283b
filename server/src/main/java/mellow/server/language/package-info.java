/** Languages by number and tag. */
@NullMarked
@Uses("common")
package mellow.server.language;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
