/** Recounts everything and compares it with what the record says of itself. Knows the tables, depends on no feature. */
@NullMarked
@Uses("check")
package mellow.server.audit;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
