/** Android string resources: strings, arrays as numbered states, plurals. */
@NullMarked
package mellow.core.format.android;

import org.jspecify.annotations.NullMarked;
