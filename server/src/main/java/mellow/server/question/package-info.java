/** Questions about entries and their answers. Depends on table, people, activity, live, common. */
@NullMarked
package mellow.server.question;

import org.jspecify.annotations.NullMarked;
