/**
 * Bringing files in, one or a set of one per language: drop, sort, read, see, decide, apply, take back. Depends on file, run, record, table, coverage, activity,
 * live, language, people, common.
 */
@NullMarked
package mellow.server.intake;

import org.jspecify.annotations.NullMarked;
