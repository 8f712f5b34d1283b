/** Serves the built web client. Depends on nothing. */
@NullMarked
package mellow.server.web;

import org.jspecify.annotations.NullMarked;
