/** Ledger JSON, our own format: all that is known about a table's entries in all its languages. docs/ledger-json.md describes it. */
@NullMarked
@Uses({"format", "format.json", "format.source", "format.tree", "language", "text"})
package mellow.core.format.ledger;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
