-- A place that shows one entry of many, as the line of an alarm does: all those whose key begins so; empty where it shows the one that it was drawn for.
alter table scene_place add list text not null default '';
create index scene_place_with_list on scene_place (scene_id) where list <> '';

-- What each place of a scene shows: the entry that it was drawn for, else the first of its key in the product's tables, in their order; and beside it what its
-- list has, in the same order. A list ends at 500.
create or replace view scene_shows as
select s.product_id, l.scene_id, l.number, l.key, l.asset, e.id entry_id, e.table_id, e.version entry_version, false listed, 0::bigint turn
from scene_place l
join scene s on s.id = l.scene_id and s.removed_at is null
left join lateral (
    select e.id, e.table_id, e.version from product_table t
    join entry e on e.table_id = t.table_id and e.removed_at is null and (e.id = l.entry_id or e.key = l.key)
    where t.product_id = s.product_id
    order by (e.id = l.entry_id) is true desc, t.position, e.position, e.id limit 1) e on true
union all
select s.product_id, l.scene_id, l.number, e.key, false, e.id, e.table_id, e.version, true, e.turn
from scene_place l
join scene s on s.id = l.scene_id and s.removed_at is null
join lateral (
    select e.id, e.key, e.table_id, e.version, row_number() over (order by t.position, e.position, e.id) turn from product_table t
    join entry e on e.table_id = t.table_id and e.removed_at is null and starts_with(e.key, l.list)
    where t.product_id = s.product_id
    order by t.position, e.position, e.id limit 500) e on true
where l.list <> '';
