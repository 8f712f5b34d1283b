/** Products: which tables and languages a game, panel, app or site uses. */
@NullMarked
@Uses({"common", "language", "people", "table"})
package mellow.server.product;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
