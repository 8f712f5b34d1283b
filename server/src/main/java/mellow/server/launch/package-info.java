/** Commands of the launcher: the private PostgreSQL cluster, starting the server. Depends on demo, people, common. */
@NullMarked
package mellow.server.launch;

import org.jspecify.annotations.NullMarked;
