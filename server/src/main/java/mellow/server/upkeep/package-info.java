/** Clears at night what has had its time. */
@NullMarked
@Uses("common")
package mellow.server.upkeep;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
