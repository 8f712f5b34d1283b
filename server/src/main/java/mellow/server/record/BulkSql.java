package mellow.server.record;

import mellow.server.common.Coded;

/** The statements of a bulk change; each works on rows that were staged before it. */
final class BulkSql {

    static final String STAGE =
            """
            create temporary table staged_source (entry_id bigint, source text, source_forms text, source_folded text, words int, meaning boolean) on commit drop;
            create temporary table staged_description (entry_id bigint, note text, note_folded text, reference text, section text, max_length int) on commit drop;
            create temporary table staged_place (entry_id bigint, key text, context text, removed boolean) on commit drop;
            create temporary table staged_text (entry_id bigint, language_id int, text text, forms text, folded text, standing smallint, state smallint, based_on int) on commit drop;
            create temporary table staged_offer (entry_id bigint, language_id int, based_on int) on commit drop
            """;
    static final String KEEP_CELLS =
            """
            insert into intake_cell_was (intake_id, entry_id, language_id, text, forms, folded, standing, based_on, text_version, version)
            select ?, c.entry_id, c.language_id, c.text, c.forms, c.folded, c.standing, c.based_on, c.text_version, c.version
            from (select entry_id, language_id from staged_text union all select entry_id, language_id from staged_offer) s
            join cell c on c.entry_id = s.entry_id and c.language_id = s.language_id
            """;
    static final String KEEP_ENTRIES =
            """
            insert into intake_entry_was (intake_id, entry_id, key, context, source, source_forms, source_folded, note, note_folded, reference, section, max_length,
                words, source_revision, meaning_revision, removed_at, version_after)
            select ?, e.id, e.key, e.context, e.source, e.source_forms, e.source_folded, e.note, e.note_folded, e.reference, e.section, e.max_length,
                e.words, e.source_revision, e.meaning_revision, e.removed_at, 0
            from (select entry_id from staged_source union select entry_id from staged_description union select entry_id from staged_place) s
            join entry e on e.id = s.entry_id
            """;
    static final String NOTE_VERSIONS =
            "update intake_entry_was w set version_after = e.version from entry e where w.intake_id = ? and e.id = w.entry_id";
    static final String REWRITE =
            """
            update entry e set source = s.source, source_forms = s.source_forms, source_folded = s.source_folded, words = s.words, source_revision = e.source_revision + 1,
                meaning_revision = case when s.meaning then e.source_revision + 1 else e.meaning_revision end, version = e.version + 1, changed_at = ?
            from staged_source s where e.id = s.entry_id
            """;
    static final String GO_STALE = Coded.sql(
            """
            update cell c set state = {state.stale}
            from staged_source s join entry e on e.id = s.entry_id
            where c.entry_id = s.entry_id and c.state in ({state.settled}, {state.pencilled}) and c.based_on < e.meaning_revision
            """);
    static final String WENT_STALE = Coded.sql(
            """
            select l.tag, count(*) texts from staged_source s
            join intake_entry_was w on w.intake_id = ? and w.entry_id = s.entry_id
            join entry e on e.id = s.entry_id
            join cell c on c.entry_id = s.entry_id and c.standing <> {standing.none} and c.based_on >= w.meaning_revision and c.based_on < e.meaning_revision
            join language l on l.id = c.language_id group by 1
            """);
    static final String DESCRIBE =
            """
            update entry e set note = coalesce(s.note, e.note), note_folded = case when s.note is null then e.note_folded else s.note_folded end,
                reference = coalesce(s.reference, e.reference), section = coalesce(s.section, e.section), max_length = coalesce(s.max_length, e.max_length),
                version = e.version + 1, changed_at = ?
            from (select entry_id, max(note) note, max(note_folded) note_folded, max(reference) reference, max(section) section, max(max_length) max_length
                from staged_description group by entry_id) s
            where e.id = s.entry_id
            """;
    static final String PLACE =
            """
            update entry e set key = s.key, context = s.context, removed_at = case when s.removed then ?::timestamptz end, version = e.version + 1, changed_at = ?
            from staged_place s where e.id = s.entry_id
            """;
    static final String PUT =
            """
            update cell c set text = s.text, forms = s.forms, folded = s.folded, standing = s.standing, state = s.state, based_on = s.based_on, text_version = c.version + 1, version = c.version + 1,
                origin = 'file', author_id = ?, changed_at = ?
            from staged_text s where c.entry_id = s.entry_id and c.language_id = s.language_id
            """;
    static final String SET_ASIDE = Coded.sql(
            """
            update offer o set answer = {answer.set_aside}, answered_version = c.version + 1, answered_by = ?, answered_time = ?
            from staged_offer s join cell c on c.entry_id = s.entry_id and c.language_id = s.language_id
            where o.entry_id = s.entry_id and o.language_id = s.language_id and o.author_id = ? and o.answer = {answer.open}
            """);
    static final String OPEN = Coded.sql(
            """
            update cell c set state = {state.offered}, version = c.version + 1, origin = 'file', author_id = ?, changed_at = ?,
                open_offers = 1 + (select count(*) from offer o where o.entry_id = c.entry_id and o.language_id = c.language_id and o.answer = {answer.open})
            from staged_offer s where c.entry_id = s.entry_id and c.language_id = s.language_id
            """);

    /**
     * Whether the planner believes in far fewer rows than were just written, in tables that were empty, small or never counted: any plan is as good to it as
     * another then, such as one whole index per row.
     */
    static final String BELIEVED_FEW =
            """
            select exists (select 1 from pg_class c, (values ('entry'::regclass, ?), ('cell'::regclass, ?)) w(relation, written)
            where c.oid = w.relation and w.written > 0 and 2 * c.reltuples / greatest(c.relpages, 1)
                * (pg_relation_size(c.oid) / current_setting('block_size')::int) < w.written)
            """;

    private BulkSql() {}
}
