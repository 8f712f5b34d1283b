/** Serves the built web client. */
@NullMarked
@Uses("common")
package mellow.server.web;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
