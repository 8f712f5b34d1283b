/** Agreed terms, their translations and words to avoid. Depends on language, people, common. */
@NullMarked
package mellow.server.wordbook;

import org.jspecify.annotations.NullMarked;
