-- What a term is, where it belongs, and how else it reads; proposals of contributors wait beside what is agreed.
alter table term
    add column part text not null default '' check (part in ('', 'noun', 'verb', 'adjective', 'adverb', 'name', 'phrase')),
    -- Products that it belongs to; empty for all.
    add column products bigint[] not null default '{}',
    add column status text not null default 'agreed' check (status in ('agreed', 'proposed', 'avoid')),
    -- How it reads in sources as well.
    add column forms text[] not null default '{}',
    -- What every source with the term has in it (WordForms.beginning), by which most terms are put aside; null for not known.
    add column begins text[],
    add column proposed_by bigint references person;
alter table term_text
    -- What may be said as well, and forms that no rule reaches.
    add column forms text[] not null default '{}',
    -- What a contributor proposes to say instead; null for nothing.
    add column proposal text,
    add column proposed_by bigint references person,
    add column proposed_at timestamptz;
create index term_proposed on term_text (language_id) where proposal is not null;

-- Terms are followed through their endings now: what was found before is looked at again.
insert into recheck (table_id, languages, words, sources_only, person_id, asked_at)
    select t.id, null, null, false, null, now() from ledger_table t
    where t.removed_at is null and exists (select 1 from term where removed_at is null);
