/** Recounts everything and compares it with what the record says of itself. Knows the tables, depends on no feature. */
@NullMarked
package mellow.server.audit;

import org.jspecify.annotations.NullMarked;
