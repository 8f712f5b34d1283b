/** Ledger JSON, our own format: all that is known about a table's entries in all its languages. docs/ledger-json.md describes it. */
@NullMarked
package mellow.core.format.ledger;

import org.jspecify.annotations.NullMarked;
