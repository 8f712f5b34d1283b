/** Entries: making, describing, rewriting, moving, removing them, their story, pictures and assets. */
@NullMarked
@Uses({"activity", "check", "common", "coverage", "file", "language", "live", "people", "record", "recording", "table"})
package mellow.server.entry;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
