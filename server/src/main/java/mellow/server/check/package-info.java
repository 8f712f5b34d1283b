/** Looks at texts beside their sources while they are typed. Depends on wordbook, language, common. */
@NullMarked
package mellow.server.check;

import org.jspecify.annotations.NullMarked;
