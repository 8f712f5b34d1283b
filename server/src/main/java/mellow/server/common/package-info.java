/** What every feature needs: errors as problem details, paging of streams into COPY. Depends on no feature. */
@NullMarked
package mellow.server.common;

import org.jspecify.annotations.NullMarked;
