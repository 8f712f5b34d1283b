/** Tells open screens what changed, on every server of the database: NOTIFY in the transaction, server-sent events to the browser. Depends on people, common. */
@NullMarked
package mellow.server.live;

import org.jspecify.annotations.NullMarked;
