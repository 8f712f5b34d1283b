/** Bringing files in, one or a set of one per language: drop, sort, read, see, decide, apply, take back. */
@NullMarked
@Uses({
    "activity",
    "check",
    "common",
    "coverage",
    "file",
    "language",
    "live",
    "master",
    "people",
    "record",
    "recording",
    "run",
    "table"
})
package mellow.server.intake;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
