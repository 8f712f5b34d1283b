/** YAML 1.2 with a text per key. Own reader: no tags but strings, no references followed, everything with its place. */
@NullMarked
package mellow.core.format.yaml;

import org.jspecify.annotations.NullMarked;
