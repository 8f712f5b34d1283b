/** What waits for a reviewer's answer, and whose it is. Answers go through cell. */
@NullMarked
@Uses({"cell", "common", "language", "people", "run", "table", "wordbook"})
package mellow.server.review;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
