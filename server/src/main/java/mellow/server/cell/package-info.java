/** Cells, their offers and story: reading and changing one. */
@NullMarked
@Uses({
    "activity",
    "check",
    "common",
    "coverage",
    "file",
    "language",
    "live",
    "people",
    "record",
    "recording",
    "run",
    "standing",
    "table"
})
package mellow.server.cell;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
