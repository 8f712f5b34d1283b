/**
 * Knows languages: BCP 47 tags in any common spelling, names, direction, plural categories. Must not know which languages a table or a person has.
 */
@NullMarked
package mellow.core.language;

import org.jspecify.annotations.NullMarked;
