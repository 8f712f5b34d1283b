/** The lower half of the Board: what happened, what is left and when it ends. Depends on activity, coverage, table, people, language, common. */
@NullMarked
package mellow.server.board;

import org.jspecify.annotations.NullMarked;
