/** What the paths of files held when they were last taken in, and how they are read. */
@NullMarked
@Uses({"common", "file", "table"})
package mellow.server.master;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
