/** Files as people sent them. Depends on common. */
@NullMarked
package mellow.server.file;

import org.jspecify.annotations.NullMarked;
