/** The server, one package per feature. A feature calls another only through its public service, and never in a circle. */
@NullMarked
package mellow.server;

import org.jspecify.annotations.NullMarked;
