/** Makes pretend languages out of source texts, so that a product can be tried before anybody has translated it. */
@NullMarked
@Uses({"language", "placeholder"})
package mellow.core.pseudo;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
