/** Looks at texts beside their sources while they are typed. */
@NullMarked
@Uses({"common", "language", "wordbook"})
package mellow.server.check;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
