/**
 * Knows how a file, the record and what the file held last time are compared (the tables of record.md). Must not know file formats or storage.
 */
@NullMarked
@Uses({"cell", "check", "format", "language", "memory", "text"})
package mellow.core.merge;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
