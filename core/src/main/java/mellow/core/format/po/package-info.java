/** PO, POT and MO, the catalogues of GNU gettext, with plural expressions and both habits of identifying messages. */
@NullMarked
package mellow.core.format.po;

import org.jspecify.annotations.NullMarked;
