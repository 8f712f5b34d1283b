-- What an open intake would do, as far as people can decide about it; gone once it is taken in or left. Not worth a place in the log of changes:
-- after a crash it is compared again.
create unlogged table intake_line (
    intake_id bigint not null,
    kind smallint not null,
    n int not null,
    entry_id bigint,
    key text not null,
    context text not null,
    language_id smallint,
    -- The source that a text is for.
    source text,
    before text,
    before_forms text,
    after text,
    after_forms text,
    -- How the text arrives when it is taken: 0 settled, 1 offered, 2 pencilled.
    taken smallint,
    -- What holds unless somebody decides about this very line; and what somebody decided.
    usual smallint not null,
    choice smallint,
    -- Languages that have a text for the older source; whether the text, taken, is for the newer one and so keeps its language from going stale; texts that come along with a new entry, by how they arrive.
    stale text not null,
    spares boolean not null,
    texts_settled int not null,
    texts_offered int not null,
    texts_pencilled int not null,
    primary key (intake_id, kind, n)
);
create index intake_line_spares on intake_line (intake_id, key, context) where spares;
create index intake_line_decided on intake_line (intake_id) where choice is not null;

-- How cells and entries were before an intake, for taking it back. version 0: there was no cell.
create table intake_cell_was (
    intake_id bigint not null,
    entry_id bigint not null,
    language_id smallint not null,
    text text,
    forms text,
    folded text,
    standing smallint not null,
    based_on int not null,
    text_at int not null,
    version int not null,
    primary key (intake_id, entry_id, language_id)
);
create table intake_entry_was (
    intake_id bigint not null,
    entry_id bigint not null,
    key text not null,
    context text not null,
    source text not null,
    source_forms text,
    source_folded text,
    note text not null,
    note_folded text,
    reference text not null,
    section text not null,
    max_length int not null,
    words int not null,
    source_revision int not null,
    meaning_revision int not null,
    removed_at timestamptz,
    -- The version that the intake left.
    version_after int not null,
    primary key (intake_id, entry_id)
);

alter table intake_entry add column added boolean not null default false;
alter table offer add column intake_id bigint;
create index offer_intake on offer (intake_id) where intake_id is not null;

alter table intake
    drop constraint intake_status_check,
    add constraint intake_status_check check (status in ('open', 'applied', 'left', 'undone')),
    -- How the intake was compared: with which version of what was decided, when, and what came of it.
    add column decided int not null default 0,
    add column compared int not null default -1,
    add column compared_at timestamptz,
    add column comparison jsonb,
    -- What the path held before, so that taking it back puts that back too; and what came of taking it back.
    add column master_was jsonb,
    add column made_table boolean not null default false,
    add column undone_at timestamptz,
    add column undone_by bigint references person,
    add column undo_report jsonb;

-- For programs; only a hash is kept.
create table token (
    id bigint generated always as identity primary key,
    hash bytea not null unique,
    name text not null,
    person_id bigint not null references person,
    -- What it may do: take files in, send them out.
    takes_in boolean not null,
    sends_out boolean not null,
    -- The only table it may touch, null for all.
    table_id bigint references ledger_table,
    created_at timestamptz not null,
    expires_at timestamptz not null,
    used_at timestamptz,
    ended_at timestamptz
);
