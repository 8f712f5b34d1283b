/** Finds entries by key, source, note and text, and people by name. Depends on language, people, common. */
@NullMarked
package mellow.server.find;

import org.jspecify.annotations.NullMarked;
