/** What every feature needs: errors as problem details, paging of streams into COPY. */
@NullMarked
@Uses({})
package mellow.server.common;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
