/** Knows how to look ahead: when work ends at the pace of the last weeks. Must not know tables, people or storage. */
@NullMarked
package mellow.core.plan;

import org.jspecify.annotations.NullMarked;
