/** What stands below the sheet about one cell, in one reply. */
@NullMarked
@Uses({"cell", "check", "code", "language", "memory", "question", "rehearsal"})
package mellow.server.note;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
