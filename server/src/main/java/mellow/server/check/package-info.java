/**
 * What texts are looked at by, what is found in those of the record, kept beside them, and what people found right about them. Looks at one while it is typed.
 */
@NullMarked
@Uses({"common", "file", "language", "wordbook"})
package mellow.server.check;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
