/** Finds and replaces words over a scope. Depends on sheet, entry, language, people, common. */
@NullMarked
package mellow.server.replace;

import org.jspecify.annotations.NullMarked;
