/** What the ledger spread reads: scopes and pages of rows. */
@NullMarked
@Uses({"cell", "common", "file", "language", "people", "product", "table"})
package mellow.server.sheet;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
