/** Rules by which a language trusts its contributors. */
@NullMarked
@Uses({"common", "language", "people"})
package mellow.server.standing;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
