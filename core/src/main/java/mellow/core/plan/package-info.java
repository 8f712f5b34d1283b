/** Knows how to look ahead: when work ends at the pace of the last weeks. Must not know tables, people or storage. */
@NullMarked
@Uses({})
package mellow.core.plan;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
