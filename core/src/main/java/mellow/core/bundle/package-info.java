/** What running products fetch: the texts of a language, and what changed of them. */
@NullMarked
@Uses({"delivery", "format", "language", "product"})
package mellow.core.bundle;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
