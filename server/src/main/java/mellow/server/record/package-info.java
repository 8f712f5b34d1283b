/** Streams a whole table with its cells, for comparing with a file and for writing one. Depends on language. */
@NullMarked
package mellow.server.record;

import org.jspecify.annotations.NullMarked;
