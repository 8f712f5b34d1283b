/** Counters of states per table and language. */
@NullMarked
@Uses("common")
package mellow.server.coverage;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
