-- Sessions of signed-in people (the schema that Spring Session expects).
create table spring_session (
    primary_id char(36) not null primary key,
    session_id char(36) not null,
    creation_time bigint not null,
    last_access_time bigint not null,
    max_inactive_interval int not null,
    expiry_time bigint not null,
    principal_name varchar(100)
);
create unique index spring_session_id on spring_session (session_id);
create index spring_session_expiry on spring_session (expiry_time);
create index spring_session_principal on spring_session (principal_name);
create table spring_session_attributes (
    session_primary_id char(36) not null references spring_session on delete cascade,
    attribute_name varchar(200) not null,
    attribute_bytes bytea not null,
    primary key (session_primary_id, attribute_name)
);

-- Sign-in attempts, counted across servers (the schema that Bucket4j expects).
create table bucket (
    id bigint primary key,
    state bytea,
    expires_at bigint
);

create table language (
    id smallint generated always as identity primary key,
    tag text not null unique
);

create table person (
    id bigint generated always as identity primary key,
    sign_in text not null unique check (sign_in = lower(sign_in)),
    name text not null,
    password_hash text not null,
    coordinator boolean not null default false,
    created_at timestamptz not null,
    ended_at timestamptz
);

create table person_right (
    person_id bigint not null references person,
    language_id smallint not null references language,
    level text not null check (level in ('reader', 'contributor', 'reviewer')),
    primary key (person_id, language_id)
);

create table ledger_table (
    id bigint generated always as identity primary key,
    slug text not null unique,
    name text not null,
    source_language_id smallint not null references language,
    -- Counters over entries that are neither removed nor "not for translation", kept in the transaction that changes them.
    entries int not null default 0,
    words bigint not null default 0,
    created_at timestamptz not null,
    version int not null default 0
);

create table table_language (
    table_id bigint not null references ledger_table,
    language_id smallint not null references language,
    position smallint not null,
    -- Whether reviewers may settle their own texts (no four eyes).
    settles_own boolean not null default false,
    primary key (table_id, language_id)
);

create sequence entry_seq;
create table entry (
    id bigint primary key default nextval('entry_seq'),
    table_id bigint not null references ledger_table,
    -- Order in the table; between two neighbours there is always room.
    position double precision not null,
    key text not null,
    context text not null default '',
    source text not null,
    note text not null default '',
    reference text not null default '',
    section text not null default '',
    -- Longest allowed text in characters, 0 for no limit.
    max_length int not null default 0,
    shape text not null default 'plain' check (shape in ('plain', 'plural', 'states', 'asset')),
    translatable boolean not null default true,
    source_revision int not null default 1,
    meaning_revision int not null default 1,
    words int not null,
    version int not null default 0,
    changed_at timestamptz not null,
    removed_at timestamptz
);
create unique index entry_key on entry (table_id, key, context) where removed_at is null;
create index entry_order on entry (table_id, position) where removed_at is null;

-- standing: 0 none, 1 pencilled, 2 settled. state: 0 offered, 1 returned, 2 stale, 3 settled, 4 pencilled, 5 untranslated.
-- A cell without text and offers has no row. The tables of cells, offers and their story have no foreign keys: a check per row would double the
-- time of an intake; entries, languages and people are never deleted, and `mellow audit` looks for orphans.
create table cell (
    entry_id bigint not null,
    language_id smallint not null,
    text text,
    standing smallint not null,
    state smallint not null,
    based_on int not null,
    text_at int not null,
    version int not null,
    origin text not null,
    author_id bigint not null,
    changed_at timestamptz not null,
    open_offers smallint not null default 0,
    primary key (entry_id, language_id),
    check ((text is null) = (standing = 0))
);

create sequence offer_seq;
-- answer: 0 open, 1 settled, 2 amended, 3 returned, 4 set aside, 5 withdrawn. opened_at and answered_at are versions of the cell.
create table offer (
    id bigint primary key default nextval('offer_seq'),
    entry_id bigint not null,
    language_id smallint not null,
    author_id bigint not null,
    text text not null,
    based_on int not null,
    answer smallint not null default 0,
    opened_at int not null,
    answered_at int not null default 0,
    offered_time timestamptz not null,
    answered_by bigint,
    answered_time timestamptz,
    reason text
);
create index offer_cell on offer (entry_id, language_id);
create index offer_open on offer (language_id, author_id) where answer = 0;

create table stored_file (
    id bigint generated always as identity primary key,
    name text not null,
    bytes bigint not null,
    created_at timestamptz not null
);
create table stored_file_part (
    file_id bigint not null references stored_file on delete cascade,
    part int not null,
    content bytea not null,
    primary key (file_id, part)
);

create table intake (
    id bigint generated always as identity primary key,
    person_id bigint not null references person,
    file_id bigint not null references stored_file,
    file_name text not null,
    table_id bigint references ledger_table,
    options jsonb not null,
    status text not null check (status in ('open', 'applied', 'left')),
    report jsonb,
    created_at timestamptz not null,
    applied_at timestamptz,
    version int not null default 0
);

-- What a path held when it was last taken in: base of the next comparison, and the file that is written in place.
create table master_file (
    table_id bigint not null references ledger_table,
    path text not null,
    file_id bigint not null references stored_file,
    intake_id bigint not null references intake,
    options jsonb not null,
    taken_at timestamptz not null,
    primary key (table_id, path)
);

create sequence cell_story_seq cache 50;
-- Append-only. The number only orders the lines of one cell.
create table cell_story (
    entry_id bigint not null,
    language_id smallint not null,
    id bigint not null default nextval('cell_story_seq'),
    at timestamptz not null,
    person_id bigint not null,
    what text not null,
    origin text not null,
    before text,
    after text,
    standing smallint not null,
    based_on int not null,
    offer_id bigint,
    intake_id bigint,
    reason text,
    primary key (entry_id, language_id, id)
);

-- Which entries an intake touched.
create table intake_entry (
    intake_id bigint not null references intake,
    entry_id bigint not null,
    primary key (intake_id, entry_id)
);

create sequence entry_story_seq cache 50;
create table entry_story (
    entry_id bigint not null,
    id bigint not null default nextval('entry_story_seq'),
    at timestamptz not null,
    person_id bigint not null,
    what text not null,
    before text,
    after text,
    revision int not null,
    intake_id bigint,
    primary key (entry_id, id)
);

-- Counters per state; what is not counted here is untranslated.
create table coverage (
    table_id bigint not null references ledger_table,
    language_id smallint not null references language,
    state smallint not null,
    entries int not null,
    words bigint not null,
    primary key (table_id, language_id, state)
);

create table run (
    id bigint generated always as identity primary key,
    kind text not null,
    subject bigint not null,
    person_id bigint not null references person,
    status text not null check (status in ('going', 'done', 'failed', 'cancelled')),
    done bigint not null default 0,
    total bigint not null default 0,
    message text not null default '',
    cancel boolean not null default false,
    started_at timestamptz not null,
    seen_at timestamptz not null,
    ended_at timestamptz
);
create index run_subject on run (kind, subject, id);
