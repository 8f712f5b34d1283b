/**
 * What would break in the products: counts and lists of what the checks found, by scope; what counts as wrong, and exceptions; looking again when that changes.
 */
@NullMarked
@Uses({"check", "common", "file", "language", "live", "people", "product", "run", "sheet", "table", "wordbook"})
package mellow.server.finding;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
