/** Knows ZIP archives and their dangers: workbooks are some, and files come and go together in others. Must not know what the parts hold. */
@NullMarked
package mellow.core.format.archive;

import org.jspecify.annotations.NullMarked;
