/** Files as people sent them. */
@NullMarked
@Uses("common")
package mellow.server.file;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
