/** Fills what is untranslated from what was settled elsewhere and from drafts of services: what it would do, to be looked at, and doing it as one change. */
@NullMarked
@Uses({"cell", "check", "common", "draft", "language", "memory", "people", "run", "sheet"})
package mellow.server.fill;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
