/** XML 1.0 with the place of everything in the file, for the formats that are XML. No document types, no entities but the five built in. */
@NullMarked
@Uses({"format", "format.source"})
package mellow.core.format.xml;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
