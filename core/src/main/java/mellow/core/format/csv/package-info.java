/** Knows separated text (RFC 4180 and the habits around it): finding values, their spans, writing fresh and in place. Start at {@code CsvFormat}. */
@NullMarked
@Uses({"format", "format.charset", "format.sheet", "language"})
package mellow.core.format.csv;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
