-- Services that draft texts, and what they were asked.
create table draft_service (
    id bigint generated always as identity primary key,
    name text not null,
    address text not null,
    -- Sealed with the server's key (AES-GCM, its nonce first); null where the service asks for none.
    secret bytea,
    -- Tags of the languages that it drafts; empty for all.
    languages text[] not null default '{}',
    -- Tables whose texts may not leave.
    withheld bigint[] not null default '{}',
    day_characters bigint not null,
    month_characters bigint not null,
    texts_at_once int not null,
    requests_at_once int not null,
    seconds int not null,
    version int not null default 0,
    person_id bigint not null references person,
    made_at timestamptz not null,
    removed_at timestamptz
);
create unique index draft_service_name on draft_service (lower(name)) where removed_at is null;

-- Characters that were sent, by day (UTC).
create table draft_use (
    service_id bigint not null references draft_service,
    day date not null,
    characters bigint not null,
    primary key (service_id, day)
);

-- Drafts that became the text of a cell, to see how much people change them.
create table draft (
    id bigint generated always as identity primary key,
    service_id bigint not null references draft_service,
    entry_id bigint not null,
    language_id smallint not null,
    change_id bigint not null,
    text text not null,
    made_at timestamptz not null
);
create index draft_of_service on draft (service_id, id);

-- A fill that is going or over. What a service drafted is kept as it comes: after a power cut nothing is asked twice.
create table filling (
    change_id bigint primary key,
    person_id bigint not null references person,
    language_id smallint not null,
    scope text not null,
    service_id bigint references draft_service,
    begun_at timestamptz not null,
    known int not null default 0,
    drafted int not null default 0,
    refused int not null default 0,
    told jsonb not null default '[]'
);
create index filling_newest on filling (begun_at desc);
create table filling_draft (
    change_id bigint not null references filling on delete cascade,
    entry_id bigint not null,
    -- Null where none could be taken; then why.
    text text,
    failure text,
    primary key (change_id, entry_id)
);

-- Whether texts of machines may be settled many at once.
alter table table_language add column settles_drafts boolean not null default false;
