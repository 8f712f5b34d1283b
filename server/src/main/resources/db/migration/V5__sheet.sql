-- Questions about entries. The answer stays with the entry, for all languages.
create table question (
    id bigint generated always as identity primary key,
    entry_id bigint not null,
    person_id bigint not null references person,
    text text not null,
    asked_at timestamptz not null,
    answer text,
    answered_by bigint references person,
    answered_at timestamptz
);
create index question_entry on question (entry_id);
create index question_open on question (entry_id) where answer is null;

-- Agreed terms of a source language, with a translation and words to avoid per language.
create table term (
    id bigint generated always as identity primary key,
    language_id smallint not null references language,
    text text not null,
    note text not null default '',
    version int not null default 0,
    changed_at timestamptz not null,
    changed_by bigint not null references person,
    removed_at timestamptz
);
create unique index term_text_once on term (language_id, lower(text)) where removed_at is null;
create table term_text (
    term_id bigint not null references term,
    language_id smallint not null references language,
    text text not null default '',
    avoid text[] not null default '{}',
    primary key (term_id, language_id)
);

-- Memory: entries with the same source, and with similar ones.
create index entry_same_source on entry using hash (source);
create index entry_like_source on entry using gin (source gin_trgm_ops) where not unindexed;
