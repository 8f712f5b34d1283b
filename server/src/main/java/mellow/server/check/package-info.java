/** Gives the checks what they look at texts by, for whoever checks texts of the record, and looks at one while it is typed. */
@NullMarked
@Uses({"common", "language", "wordbook"})
package mellow.server.check;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
