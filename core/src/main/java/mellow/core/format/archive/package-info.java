/** Knows ZIP archives and their dangers: workbooks are some, and files come and go together in others. Must not know what the parts hold. */
@NullMarked
@Uses("format")
package mellow.core.format.archive;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
