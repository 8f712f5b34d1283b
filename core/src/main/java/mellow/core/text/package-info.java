/**
 * Knows what an entry says in one language: texts, their forms by shape, and how words are counted. Must not know about files, states, people or
 * storage.
 */
@NullMarked
@Uses({})
package mellow.core.text;

import mellow.core.Uses;
import org.jspecify.annotations.NullMarked;
