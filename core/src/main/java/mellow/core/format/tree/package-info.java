/** What formats of nested keys share: JSON and YAML read as one kind of tree with places, and its leaves as entries. */
@NullMarked
@Uses({"format", "format.source", "language", "placeholder", "text"})
package mellow.core.format.tree;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
