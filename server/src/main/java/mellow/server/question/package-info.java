/** Questions about entries and their answers. */
@NullMarked
@Uses({"activity", "common", "live", "people"})
package mellow.server.question;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
