/** YAML 1.2 with a text per key. Own reader: no tags but strings, no references followed, everything with its place. */
@NullMarked
@Uses({"format", "format.source", "format.tree", "language", "text"})
package mellow.core.format.yaml;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
