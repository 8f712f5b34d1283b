/** Tokens for programs: who may let one in, what it may do, and letting it in. */
@NullMarked
@Uses({"common", "people", "table"})
package mellow.server.token;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
