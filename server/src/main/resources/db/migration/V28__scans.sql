-- How the code of a product names keys, and how it writes one where a text was.
create table scan_setting (
    product_id bigint primary key references product,
    settings jsonb not null,
    version int not null
);

-- Looks through a product's code. Places are kept of the last scan and the one before; of earlier ones the figures.
create table scan (
    id bigint generated always as identity primary key,
    product_id bigint not null references product,
    person_id bigint not null references person,
    name text not null,
    begun_at timestamptz not null,
    -- Null until it is through; one that is through is the product's last until the next is.
    done_at timestamptz,
    files int not null default 0,
    lines bigint not null default 0,
    -- Why how many files were not looked through, and what was left out.
    skipped jsonb not null default '{}',
    -- Compared with the one before: what is new, gone, elsewhere.
    compared jsonb not null default '{}'
);
create index scan_last on scan (product_id, done_at desc) where done_at is not null;

-- What was sent to be looked through, until that is done.
create table scan_upload (
    scan_id bigint not null references scan on delete cascade,
    part int not null,
    content bytea not null,
    primary key (scan_id, part)
);

-- Places that use a key. how: 0 the whole key, 1 a part of it is computed, 2 only mentioned. folded: the key is a name of a resource.
create table scan_use (
    scan_id bigint not null references scan on delete cascade,
    position int not null,
    path text not null,
    line int not null,
    at_column int not null,
    around text not null,
    how smallint not null,
    folded boolean not null,
    test boolean not null,
    key text not null,
    context text,
    said text,
    note text not null,
    -- How many values are put into the text, and their names; null where that cannot be told.
    given int,
    names text[],
    -- The key was not in the scan before.
    fresh boolean not null default false,
    primary key (scan_id, position)
);
create index scan_use_key on scan_use (scan_id, key);

-- Texts without keys. lines, from_at, to_at and at_end: what a patch replaces; null where it cannot.
create table scan_text (
    scan_id bigint not null references scan on delete cascade,
    position int not null,
    path text not null,
    line int not null,
    at_column int not null,
    around text not null,
    text text not null,
    kind text not null,
    likelihood smallint not null,
    composed boolean not null,
    lines text,
    from_at int,
    to_at int,
    at_end boolean,
    -- It was not in the scan before, there or elsewhere.
    fresh boolean not null default false,
    primary key (scan_id, position)
);
create index scan_text_place on scan_text (scan_id, path);

-- Where an import goes in files that have such texts.
create table scan_file (
    scan_id bigint not null references scan on delete cascade,
    path text not null,
    import_after int not null,
    import_line text not null,
    imports text not null,
    primary key (scan_id, path)
);

-- What was decided about a text without a key, by its file and what it says: it stays decided when it moves.
create table text_decision (
    product_id bigint not null references product,
    path text not null,
    -- SHA-256 of the text.
    text_hash bytea not null,
    decision text not null check (decision in ('later', 'ignored', 'taken')),
    -- What it became when it was taken.
    entry_id bigint references entry,
    key text,
    person_id bigint not null references person,
    decided_at timestamptz not null,
    primary key (product_id, path, text_hash),
    check ((decision = 'taken') = (entry_id is not null))
);
create index text_decision_entry on text_decision (entry_id) where entry_id is not null;

-- How the code of a product uses an entry since when: 0 not at all, 1 perhaps, 2 in tests only, 3 yes.
create table code_use (
    product_id bigint not null references product,
    entry_id bigint not null references entry,
    how smallint not null,
    since timestamptz not null,
    primary key (product_id, entry_id)
);
create index code_use_entry on code_use (entry_id, how);
