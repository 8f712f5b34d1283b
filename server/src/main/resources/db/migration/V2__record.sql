create extension if not exists pg_trgm;

-- Tables that were removed keep everything and can be put back.
alter table ledger_table drop constraint ledger_table_slug_key;
alter table ledger_table add column removed_at timestamptz;
create unique index ledger_table_slug on ledger_table (slug) where removed_at is null;
alter table table_language add column archived_at timestamptz;

-- Texts that are not plain: "source" and "text" hold the main form for lists and searches, "forms" all of them as a JSON object.
-- A folded text is kept only where it differs (accents), so that the search ignores them.
alter table entry
    add column source_forms text,
    add column source_folded text,
    add column note_folded text,
    add column max_lines int not null default 0,
    add column tags text[] not null default '{}',
    add column picture_id bigint references stored_file;
alter table cell add column forms text, add column folded text;
alter table offer add column forms text;

-- version: the cell's version after the line. was: how the cell was before, for undo. change_id: what one person did in one go.
create sequence change_seq cache 20;
alter table cell_story
    add column before_forms text,
    add column after_forms text,
    add column version int,
    add column was text,
    add column change_id bigint;
create index cell_story_change on cell_story (change_id) where change_id is not null;
alter table entry_story
    add column version int,
    add column was text,
    add column change_id bigint;
create index entry_story_change on entry_story (change_id) where change_id is not null;

create index entry_find on entry using gin
    ((key || E'\n' || coalesce(source_folded, source) || E'\n' || coalesce(note_folded, note)) gin_trgm_ops);
create index entry_by_key on entry (key) where removed_at is null;
create index cell_find on cell using gin ((coalesce(folded, text)) gin_trgm_ops);
-- One answers "only untranslated" without reading texts, the other "only stale, offered, returned, pencilled", which are few.
create index cell_state on cell (language_id, entry_id, state);
create index cell_unsettled on cell (language_id, state, entry_id) where state not in (3, 5);

create table product (
    id bigint generated always as identity primary key,
    slug text not null,
    name text not null,
    kind text not null check (kind in ('game', 'panel', 'app', 'site')),
    start_language_id smallint references language,
    created_at timestamptz not null,
    removed_at timestamptz,
    version int not null default 0
);
create unique index product_slug on product (slug) where removed_at is null;
create table product_table (
    product_id bigint not null references product,
    table_id bigint not null references ledger_table,
    position smallint not null,
    primary key (product_id, table_id)
);
create table product_language (
    product_id bigint not null references product,
    language_id smallint not null references language,
    position smallint not null,
    -- What a panel writes to its register for this language; null for products that switch by tag.
    selector int,
    primary key (product_id, language_id),
    unique (product_id, selector)
);

-- What was left to settle at the end of a day.
create table coverage_day (
    table_id bigint not null references ledger_table,
    language_id smallint not null references language,
    day date not null,
    entries int not null,
    words bigint not null,
    primary key (table_id, language_id, day)
);

-- A file of the record itself: a picture beside an entry, an asset of a cell. Files that were taken in are of no kind and are never handed out as such.
alter table stored_file add column kind text check (kind in ('picture', 'asset'));

-- What happened, added up per ten minutes, so that "since you were last here" never reads the story.
create table activity (
    slot timestamptz not null,
    table_id bigint not null,
    language_id smallint not null,
    person_id bigint not null,
    what text not null,
    subject bigint not null,
    amount int not null,
    last_at timestamptz not null,
    primary key (slot, table_id, language_id, person_id, what, subject)
);

alter table person add column seen_at timestamptz, add column last_here timestamptz;
create table invite (
    token_hash bytea primary key,
    person_id bigint not null references person,
    made_by bigint not null references person,
    made_at timestamptz not null,
    expires_at timestamptz not null,
    used_at timestamptz
);

create table kept_scope (
    id bigint generated always as identity primary key,
    person_id bigint not null references person,
    name text not null,
    query text not null,
    shared boolean not null default false,
    created_at timestamptz not null,
    unique (person_id, name)
);
