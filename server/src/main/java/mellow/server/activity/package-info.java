/** What happened, added up per ten minutes, table, language and person. Depends on common. */
@NullMarked
package mellow.server.activity;

import org.jspecify.annotations.NullMarked;
