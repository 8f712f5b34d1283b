-- Memories from elsewhere: taken in from files, beside what is settled in the ledger.
create table shelf (
    id bigint generated always as identity primary key,
    name text not null,
    -- Of equally alike units those of a lower rank come first; the ledger's own come before all.
    rank int not null,
    -- Taken off how alike a unit is, in percent.
    deduction int not null,
    -- Grows with every change of its units; a server that has an older one reads what changed since.
    version bigint not null default 1,
    person_id bigint not null references person,
    made_at timestamptz not null,
    removed_at timestamptz
);
create unique index shelf_name on shelf (lower(name)) where removed_at is null;

create table shelf_unit (
    id bigint generated always as identity primary key,
    shelf_id bigint not null references shelf,
    source_language_id smallint not null,
    language_id smallint not null,
    source text not null,
    text text not null,
    -- Without marks and case where that differs, to be searched.
    source_folded text,
    text_folded text,
    context text not null default '',
    note text not null default '',
    made_by text not null default '',
    made_at text not null default '',
    -- As it stood in the file that it came from, where it was mended since: that file brings it no second time.
    as_read text,
    -- The shelf's version at its last change.
    changed bigint not null,
    removed boolean not null default false
);
create index shelf_unit_changed on shelf_unit (shelf_id, changed);
create index shelf_unit_source on shelf_unit using gin (coalesce(source_folded, source) gin_trgm_ops) where not removed;
create index shelf_unit_text on shelf_unit using gin (coalesce(text_folded, text) gin_trgm_ops) where not removed;
-- A file that is taken in twice brings nothing new.
create index shelf_unit_same on shelf_unit (shelf_id, md5(source), language_id);

-- Who filled a cell with what: an entry's settled text, or a unit of a shelf.
create table memory_use (
    change_id bigint not null,
    entry_id bigint not null,
    language_id smallint not null,
    person_id bigint not null references person,
    at timestamptz not null,
    from_entry bigint,
    from_unit bigint,
    primary key (change_id, entry_id)
);
create index memory_use_of_unit on memory_use (from_unit) where from_unit is not null;
create index memory_use_of_entry on memory_use (from_entry, language_id) where from_entry is not null;
