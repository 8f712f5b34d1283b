/** What happened, added up per ten minutes, table, language and person. */
@NullMarked
@Uses({})
package mellow.server.activity;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
