-- Two more kinds of changes that people decide about, each beside its like; decisions of open intakes keep their meaning. In two steps, because single rows may meet.
update intake_decision set kind = kind + 100;
update intake_decision set kind = case when kind >= 111 then kind - 97 when kind = 110 then 12 when kind >= 102 then kind - 99 else kind - 100 end;
truncate intake_line;
update intake set compared = -1 where status = 'open';

-- The key that an entry has in the record, where the file names it otherwise.
alter table intake_line add column former text;

-- What was read of the file, for its screen: found out once per version of what was decided.
alter table intake add column reading jsonb, add column reading_of int not null default -1;

-- How files were understood before that could be chosen; their entries are in the record by it. Catalogues told it by evidence that still holds, but for those whose
-- contexts look like keys now: where keys have spaces, sources were the keys.
update master_file set options = options || '{"keys": "CONTEXT"}' where options ->> 'format' in ('xliff-1.2', 'xliff-2') and options ->> 'keys' is null;
update master_file set options = options || '{"siblings": "FORMS"}' where options ->> 'format' in ('json', 'yaml') and options ->> 'siblings' is null;
update master_file m set options = options || '{"keys": "SOURCE"}' where options ->> 'format' = 'po' and options ->> 'keys' is null
    and exists (select 1 from entry e where e.table_id = m.table_id and e.context <> '' and e.key like '% %');
