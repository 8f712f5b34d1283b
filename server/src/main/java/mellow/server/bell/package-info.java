/** Notices: what waits for someone, and what became of what they did. Depends on people, language, common. */
@NullMarked
package mellow.server.bell;

import org.jspecify.annotations.NullMarked;
