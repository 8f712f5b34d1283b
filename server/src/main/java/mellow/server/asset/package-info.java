/** Pictures and sounds that entries have per language: storing and showing them, and bringing in many whose names tell their entries and languages. */
@NullMarked
@Uses({"check", "common", "file", "intake", "language", "people", "run", "table"})
package mellow.server.asset;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
