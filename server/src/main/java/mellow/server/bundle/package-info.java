/** Bundles: running products fetch their texts over HTTP. */
@NullMarked
@Uses({"common", "delivery", "language", "live", "people", "product", "replica"})
package mellow.server.bundle;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
