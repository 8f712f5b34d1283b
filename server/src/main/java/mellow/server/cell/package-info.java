/** Cells, their offers and story: reading and changing one. Depends on table, people, language, coverage, activity, live, standing, wordbook, common. */
@NullMarked
package mellow.server.cell;

import org.jspecify.annotations.NullMarked;
