/** What people contributed: figures per language and person, what became of their offers, reports of a period. */
@NullMarked
@Uses({"cell", "common", "language", "people"})
package mellow.server.contribution;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
