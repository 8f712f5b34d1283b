-- Widest line that an entry's place has, in pixels of its product's font; 0 for any.
alter table entry add column max_width int not null default 0;

-- What the checks find in texts as they are now: a row only where there is something. In the table's source language it is of the source itself.
create table finding_mask (
    entry_id bigint not null,
    language_id int not null,
    table_id bigint not null,
    -- Bits by kind: those that stop a text, and those to mind.
    stops bigint not null,
    minds bigint not null,
    -- Hash of the source that is said differently elsewhere in the table, where that was found.
    twin text,
    primary key (entry_id, language_id),
    check (stops <> 0 or minds <> 0)
);
create index finding_mask_of_table on finding_mask (table_id, language_id);
create index finding_mask_twins on finding_mask (table_id, language_id, twin) where twin is not null;

-- What counts as wrong, for a table or for all tables of a product. Kinds that are not named count as usual.
create table check_setting (
    table_id bigint unique references ledger_table,
    product_id bigint unique references product,
    weights jsonb not null default '{}',
    placeholders text[] not null default '{}',
    forbidden text not null default '',
    length_factor real not null default 0,
    key_rule text not null default '',
    -- The character set of what the product reads; empty for any letter.
    charset text not null default '',
    version int not null default 0,
    changed_at timestamptz not null,
    changed_by bigint not null references person,
    check ((table_id is null) <> (product_id is null))
);

-- "This is right": holds as long as source and text are those that somebody looked at.
create table check_exception (
    entry_id bigint not null,
    language_id int not null,
    kind text not null,
    -- Hash of the source and the text.
    said text not null,
    reason text not null,
    person_id bigint not null references person,
    at timestamptz not null,
    primary key (entry_id, language_id, kind)
);

-- Fonts stay, as pictures and assets do.
alter table stored_file drop constraint stored_file_kind_check;
alter table stored_file add constraint stored_file_kind_check check (kind in ('picture', 'asset', 'font')) not valid;

-- Fonts that a product shows its texts with; without a language for all that have none of their own.
create table product_font (
    id bigint generated always as identity primary key,
    product_id bigint not null references product,
    language_id int references language,
    name text not null,
    file_id bigint not null references stored_file,
    size real not null check (size between 4 and 400),
    changed_at timestamptz not null
);
create unique index product_font_once on product_font (product_id, coalesce(language_id, 0));

-- What is to be looked at again, by table, because what texts are looked at by has changed.
create table recheck (
    id bigint generated always as identity primary key,
    table_id bigint not null references ledger_table,
    -- Null for every language.
    languages int[],
    -- Only entries with a source that has one of these words; null for every one.
    words text[],
    -- Only texts in which one of these kinds was found; 0 for every one.
    found bigint not null default 0,
    -- Who changed what is looked at by, null for the product itself.
    person_id bigint references person,
    -- Somebody stopped it; it waits until somebody goes on.
    stopped boolean not null default false,
    asked_at timestamptz not null
);
create index recheck_of_table on recheck (table_id);
-- Everything that was written before this is looked at once.
insert into recheck (table_id, asked_at) select id, now() from ledger_table where removed_at is null;
