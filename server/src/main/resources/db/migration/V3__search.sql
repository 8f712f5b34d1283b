-- What comes in by the thousand waits for the trigram indexes, which cost more than everything else about a row; a worker catches up in small steps.
-- Searches read the waiting rows as they are, so that nothing is ever missing.
alter table cell add column unindexed boolean not null default false;
alter table entry add column unindexed boolean not null default false;
drop index cell_find;
drop index entry_find;
create index cell_find on cell using gin ((coalesce(folded, text)) gin_trgm_ops) where not unindexed;
create index entry_find on entry using gin
    ((key || E'\n' || coalesce(source_folded, source) || E'\n' || coalesce(note_folded, note)) gin_trgm_ops) where not unindexed;
create index cell_unindexed on cell (entry_id, language_id) where unindexed;
create index entry_unindexed on entry (id) where unindexed;
-- A partial index tells the planner nothing about how common words are; without this it reads 380,000 places of a common one to show twelve.
create statistics cell_words on (coalesce(folded, text)) from cell;
create statistics entry_words on (key || E'\n' || coalesce(source_folded, source) || E'\n' || coalesce(note_folded, note)) from entry;
