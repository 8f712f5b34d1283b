package mellow.server.record;

import java.sql.Connection;
import java.sql.SQLException;
import java.util.List;
import mellow.core.format.FileText;
import mellow.server.common.TextColumns;
import org.jspecify.annotations.Nullable;

/** The rows of a bulk change on their way into the database: those that are new, and staged ones that change what is there. */
final class BulkRows implements AutoCloseable {

    final CopyFile entries = new CopyFile(
            "entry",
            "id int8, table_id int8, position float8, key text, context text, shape text, source text, source_forms text, "
                    + "source_folded text, note text, note_folded text, reference text, section text, max_length int4, "
                    + "translatable bool, words int4, changed_at timestamptz, unindexed bool");
    final CopyFile cells = new CopyFile(
            "cell",
            "entry_id int8, language_id int4, text text, forms text, folded text, standing int2, state int2, based_on int4, "
                    + "text_version int4, version int4, origin text, author_id int8, changed_at timestamptz, open_offers int2, "
                    + "unindexed bool");
    final CopyFile cellsWere = new CopyFile(
            "intake_cell_was",
            "intake_id int8, entry_id int8, language_id int4, standing int2, based_on int4, text_version int4, version int4");
    final CopyFile offers = new CopyFile(
            "offer",
            "entry_id int8, language_id int4, author_id int8, text text, forms text, based_on int4, opened_version int4, "
                    + "offered_time timestamptz, intake_id int8");
    final CopyFile story = new CopyFile(
            "cell_story",
            "entry_id int8, language_id int4, at timestamptz, person_id int8, what text, origin text, before text, "
                    + "before_forms text, after text, after_forms text, standing int2, based_on int4, intake_id int8");
    final CopyFile entryStory = new CopyFile(
            "entry_story",
            "entry_id int8, at timestamptz, person_id int8, what text, before text, after text, revision int4, "
                    + "intake_id int8");
    final CopyFile touched = new CopyFile("intake_entry", "intake_id int8, entry_id int8, added bool");
    final CopyFile sources = new CopyFile(
            "staged_source",
            "entry_id int8, source text, source_forms text, source_folded text, words int4, meaning bool");
    final CopyFile descriptions = new CopyFile(
            "staged_description",
            "entry_id int8, note text, note_folded text, reference text, section text, max_length int4");
    final CopyFile places = new CopyFile("staged_place", "entry_id int8, key text, context text, removed bool");
    final CopyFile texts = new CopyFile(
            "staged_text",
            "entry_id int8, language_id int4, text text, forms text, folded text, standing int2, state int2, based_on int4");
    final CopyFile offered = new CopyFile("staged_offer", "entry_id int8, language_id int4, based_on int4");

    /** How many changes of entries are staged. */
    long changedEntries() {
        return places.rows() + sources.rows() + descriptions.rows();
    }

    /** Sends what changes rows that are there. */
    void sendStaged(Connection connection) throws SQLException {
        for (CopyFile staged : List.of(places, sources, descriptions, texts, offered)) {
            staged.send(connection);
        }
    }

    static @Nullable String forms(FileText text) {
        return TextColumns.formsOrNull(text.forms());
    }

    static @Nullable String folded(FileText text) {
        return folded(text.main());
    }

    static @Nullable String folded(String text) {
        return TextColumns.foldedOrNull(text);
    }

    @Override
    public void close() {
        for (CopyFile file : List.of(
                entries,
                cells,
                cellsWere,
                offers,
                story,
                entryStory,
                touched,
                sources,
                descriptions,
                places,
                texts,
                offered)) {
            file.close();
        }
    }
}
