/** Hides placeholders from whoever drafts a text, and puts them back into what comes. Knows nothing of who drafts. */
@NullMarked
@Uses({"placeholder"})
package mellow.core.draft;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
