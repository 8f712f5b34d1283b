/** Bringing a file in: read, see, apply. Depends on file, run, table, coverage, language, people, common. */
@NullMarked
package mellow.server.intake;

import org.jspecify.annotations.NullMarked;
