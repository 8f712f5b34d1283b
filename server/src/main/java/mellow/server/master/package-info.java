/** What the paths of files held when they were last taken in, and how they are read. */
@NullMarked
package mellow.server.master;

import org.jspecify.annotations.NullMarked;
