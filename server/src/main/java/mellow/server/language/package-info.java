/** Languages by number and tag. Depends on common. */
@NullMarked
package mellow.server.language;

import org.jspecify.annotations.NullMarked;
