/** Counters of states per table and language. Depends on common. */
@NullMarked
package mellow.server.coverage;

import org.jspecify.annotations.NullMarked;
