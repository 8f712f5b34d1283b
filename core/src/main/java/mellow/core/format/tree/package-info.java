/** What formats of nested keys share: JSON and YAML read as one kind of tree with places, and its leaves as entries. */
@NullMarked
package mellow.core.format.tree;

import org.jspecify.annotations.NullMarked;
