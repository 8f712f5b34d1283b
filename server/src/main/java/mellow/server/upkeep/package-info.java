/** Clears at night what has had its time. Depends on common alone; what perishes tells so itself. */
@NullMarked
package mellow.server.upkeep;

import org.jspecify.annotations.NullMarked;
