/** Tables and the languages they are kept in. Depends on language, people, coverage, live, common. */
@NullMarked
package mellow.server.table;

import org.jspecify.annotations.NullMarked;
