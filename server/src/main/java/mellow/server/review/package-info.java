/** What waits for a reviewer's answer, and whose it is. Answers go through cell. Depends on table, language, people, wordbook, cell, run, common. */
@NullMarked
package mellow.server.review;

import org.jspecify.annotations.NullMarked;
