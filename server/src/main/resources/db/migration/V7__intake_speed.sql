-- As with cells, offers and their story, a check per row made an intake several times longer. Tables and intakes are never deleted; `mellow audit` looks
-- for orphans.
alter table entry drop constraint entry_table_id_fkey;
alter table intake_entry drop constraint intake_entry_intake_id_fkey;
