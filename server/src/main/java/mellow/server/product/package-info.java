/** Products: which tables and languages a game, panel, app or site uses. Depends on table, people, language, live, common. */
@NullMarked
package mellow.server.product;

import org.jspecify.annotations.NullMarked;
