/** Tokens for programs: who may let one in, what it may do, and letting it in. Depends on people, table, common. */
@NullMarked
package mellow.server.token;

import org.jspecify.annotations.NullMarked;
