/** Taking back one's own changes of cells or entries. */
@NullMarked
package mellow.server.undo;

import org.jspecify.annotations.NullMarked;
