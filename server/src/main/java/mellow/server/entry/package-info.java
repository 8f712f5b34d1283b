/** Entries: making, describing, rewriting, moving, removing them, their story and pictures; undo. Depends on cell, table, coverage, file, activity, live, people, language, common. */
@NullMarked
package mellow.server.entry;

import org.jspecify.annotations.NullMarked;
