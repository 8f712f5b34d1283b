/** Commands of the launcher: the private PostgreSQL cluster, starting the server. */
@NullMarked
@Uses({"audit", "code", "common", "demo", "drafter", "people"})
package mellow.server.launch;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
