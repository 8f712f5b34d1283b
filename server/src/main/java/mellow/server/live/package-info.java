/** Tells open screens what changed, on every server of the database: NOTIFY in the transaction, server-sent events to the browser. */
@NullMarked
@Uses("people")
package mellow.server.live;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
