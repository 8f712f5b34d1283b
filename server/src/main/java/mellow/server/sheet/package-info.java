/** What the ledger spread reads: scopes and pages of rows. Depends on product, table, cell, language, people, common. */
@NullMarked
package mellow.server.sheet;

import org.jspecify.annotations.NullMarked;
