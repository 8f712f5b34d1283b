/** Shows texts where people will see them: scenes of products, played in languages. */
@NullMarked
@Uses({"check", "common", "delivery", "file", "language", "live", "people", "product", "table"})
package mellow.server.rehearsal;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
