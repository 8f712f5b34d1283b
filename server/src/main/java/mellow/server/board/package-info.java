/** The lower half of the Board: what happened, what is left and when it ends. */
@NullMarked
@Uses({"activity", "coverage", "language", "people", "table"})
package mellow.server.board;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
