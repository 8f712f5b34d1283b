/** XML 1.0 with the place of everything in the file, for the formats that are XML. No document types, no entities but the five built in. */
@NullMarked
package mellow.core.format.xml;

import org.jspecify.annotations.NullMarked;
