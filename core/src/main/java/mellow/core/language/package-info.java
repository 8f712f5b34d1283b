/**
 * Knows languages: BCP 47 tags in any common spelling, names, direction, plural categories. Must not know which languages a table or a person has.
 */
@NullMarked
@Uses({})
package mellow.core.language;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
