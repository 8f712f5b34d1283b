/** Sending a table out as a file. Depends on intake, file, table, language, people, common. */
@NullMarked
package mellow.server.export;

import org.jspecify.annotations.NullMarked;
