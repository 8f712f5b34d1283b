/** What products get: recipes, gates, numbered deliveries, by hand, by a program or by themselves. */
@NullMarked
@Uses({"common", "export", "file", "language", "people", "product", "record", "run", "table", "wordbook"})
package mellow.server.delivery;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
