/** Every format there is, and which of them a file is of. The one place that knows them all. */
@NullMarked
@Uses({
    "format",
    "format.android",
    "format.csv",
    "format.json",
    "format.ledger",
    "format.memory",
    "format.po",
    "format.properties",
    "format.source",
    "format.workbook",
    "format.xliff",
    "format.yaml",
    "language",
    "text"
})
package mellow.core.format.registry;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
