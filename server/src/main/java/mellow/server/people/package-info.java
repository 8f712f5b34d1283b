/** People, their rights per language, signing in. */
@NullMarked
@Uses({"common", "language"})
package mellow.server.people;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
