/** Knows separated text (RFC 4180 and the habits around it): finding values, their spans, writing fresh and in place. Start at {@code CsvFormat}. */
@NullMarked
package mellow.core.format.csv;

import org.jspecify.annotations.NullMarked;
