/**
 * Knows what a product gets: how files are named, what keys are called in programs, which numbers stand for which language, what may go out. Must not know the
 * record, nor where files go.
 */
@NullMarked
@Uses({"asset", "language", "text"})
package mellow.core.delivery;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
