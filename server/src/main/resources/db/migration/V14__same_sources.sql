-- Entries that say the same in a table, for finding where that is said differently. Made beside what people do; a try that broke off leaves an index that is of no use.
drop index concurrently if exists entry_source_in_table;
create index concurrently entry_source_in_table on entry (table_id, md5(source)) where removed_at is null and translatable and shape = 'plain';
