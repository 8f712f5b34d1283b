/** What every feature needs: errors as problem details, the clock, coded columns, how texts are kept in columns. */
@NullMarked
@Uses({})
package mellow.server.common;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
