/** PO, POT and MO, the catalogues of GNU gettext, with plural expressions and both habits of identifying messages. */
@NullMarked
@Uses({"format", "format.source", "language", "text"})
package mellow.core.format.po;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
