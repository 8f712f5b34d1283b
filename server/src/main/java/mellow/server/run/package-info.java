/** Work that takes longer than a second. Depends on people and common. */
@NullMarked
package mellow.server.run;

import org.jspecify.annotations.NullMarked;
