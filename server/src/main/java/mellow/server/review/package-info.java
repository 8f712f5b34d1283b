/** What waits for a reviewer's answer, and whose it is. Answers go through cell. */
@NullMarked
@Uses({"cell", "check", "common", "language", "people", "run", "table"})
package mellow.server.review;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
