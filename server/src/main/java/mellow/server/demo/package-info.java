/** Loads the demo data through the normal intake. Depends on intake, entry, product, coverage, cell, table, people, language, common. */
@NullMarked
package mellow.server.demo;

import org.jspecify.annotations.NullMarked;
