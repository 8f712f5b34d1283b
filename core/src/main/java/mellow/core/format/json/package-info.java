/** JSON (RFC 8259) with a text per key, flat or nested. */
@NullMarked
package mellow.core.format.json;

import org.jspecify.annotations.NullMarked;
