/**
 * Knows which language of a product is meant by what was asked for, and which text is shown where one is missing; every answer tells the steps that were taken.
 * Must not know the record.
 */
@NullMarked
@Uses({"format", "language", "placeholder", "pseudo", "text"})
package mellow.core.product;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
