package mellow.core.format.xml;

import java.util.stream.Stream;
import mellow.core.format.FileEntry;
import mellow.core.format.UnwritableTextException;

/** Looks whether what is said of entries beside their texts can stand in XML at all. */
public final class XmlEntries {

    private XmlEntries() {}

    /**
     * Refuses an entry with a character that XML 1.0 §2.2 does not have.
     *
     * @throws UnwritableTextException naming the entry and the character
     */
    public static void require(FileEntry entry) {
        Stream.of(entry.key(), entry.context(), entry.note(), entry.reference(), entry.section())
                .flatMap(text -> XmlText.unwritable(text).stream())
                .findFirst()
                .ifPresent(character -> {
                    throw new UnwritableTextException(
                            "The key, context or note of " + entry.key() + " has the character " + character
                                    + ", which XML cannot hold; leave it out of the scope or choose another format.");
                });
    }
}
