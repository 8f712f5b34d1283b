/** Taking back one's own changes of cells or entries. */
@NullMarked
@Uses({"cell", "common", "entry", "people"})
package mellow.server.undo;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
