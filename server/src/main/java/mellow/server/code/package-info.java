/** The code of products: how it names keys, what a look through it found, and what becomes of that. */
@NullMarked
@Uses({"common", "entry", "file", "people", "product", "run"})
package mellow.server.code;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
