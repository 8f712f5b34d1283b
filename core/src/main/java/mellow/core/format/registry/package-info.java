/** Every format there is, and which of them a file is of. The one place that knows them all. */
@NullMarked
package mellow.core.format.registry;

import org.jspecify.annotations.NullMarked;
