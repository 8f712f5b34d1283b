package mellow.core.set;

import java.util.Optional;
import mellow.core.language.LanguageTag;

/**
 * A file that a table was fed from before.
 *
 * @param path its path then
 * @param table the table's number
 * @param source the table's source language
 * @param language the language of its texts; absent when it held several
 */
public record KnownFile(String path, long table, LanguageTag source, Optional<LanguageTag> language) {}
