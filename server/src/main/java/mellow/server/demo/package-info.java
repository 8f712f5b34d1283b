/** Loads the demo data through the normal intake. */
@NullMarked
@Uses({
    "asset",
    "bundle",
    "cell",
    "code",
    "common",
    "coverage",
    "delivery",
    "entry",
    "finding",
    "intake",
    "memory",
    "people",
    "product",
    "question",
    "recording",
    "rehearsal",
    "run",
    "table",
    "wordbook"
})
package mellow.server.demo;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
