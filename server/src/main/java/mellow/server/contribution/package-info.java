/** What people contributed: figures per language and person, what became of their offers, reports of a period. Depends on people, language, common. */
@NullMarked
package mellow.server.contribution;

import org.jspecify.annotations.NullMarked;
