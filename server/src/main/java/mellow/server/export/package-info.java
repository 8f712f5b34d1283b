/** Sending a table out: fresh files, files in place, whole sets. Depends on intake, record, sheet, table, language, common. */
@NullMarked
package mellow.server.export;

import org.jspecify.annotations.NullMarked;
