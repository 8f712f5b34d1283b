/** What was settled for the same or a similar source. Depends on language, common. */
@NullMarked
package mellow.server.memory;

import org.jspecify.annotations.NullMarked;
