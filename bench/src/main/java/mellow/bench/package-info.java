/** Measures the product in ratios to bare work on the same machine in the same run. Prints figures; asserts nothing. */
@NullMarked
package mellow.bench;

import org.jspecify.annotations.NullMarked;
