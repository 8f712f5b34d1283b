/** People, their rights per language, signing in. Depends on common and language. */
@NullMarked
package mellow.server.people;

import org.jspecify.annotations.NullMarked;
