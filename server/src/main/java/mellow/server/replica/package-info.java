/** Reads from a database that follows the one that is written to, where there is one and it is good for that. */
@NullMarked
@Uses({})
package mellow.server.replica;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
