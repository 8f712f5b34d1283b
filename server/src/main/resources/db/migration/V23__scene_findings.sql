-- What each place of a scene shows: the entry that it was drawn for, else the first of its key in the product's tables, in their order.
create view scene_shows as
select s.product_id, l.scene_id, l.number, l.key, l.asset, e.id entry_id, e.table_id, e.version entry_version
from scene_place l
join scene s on s.id = l.scene_id and s.removed_at is null
left join lateral (
    select e.id, e.table_id, e.version from product_table t
    join entry e on e.table_id = t.table_id and e.removed_at is null and (e.id = l.entry_id or e.key = l.key)
    where t.product_id = s.product_id
    order by (e.id = l.entry_id) is true desc, t.position, e.position, e.id limit 1) e on true;

-- Whether places are marked on a picture, and can be marked again.
alter table scene_drawing add picture boolean not null default false;

-- For how many seconds it is seen, 0 for as long as the scene.
alter table scene_place add stays double precision not null default 0;

create index scene_place_of_key on scene_place (key);

-- By what the scene was looked at last: a hash of the versions of everything that it shows. Another one now means that its findings are old.
alter table scene add looked text not null default '';

-- What is wrong where texts are shown, in each language of the product.
create table scene_finding (
    scene_id bigint not null references scene,
    language_id int not null references language,
    place int not null,
    number int not null,
    -- Null where the place shows no entry.
    entry_id bigint references entry,
    code text not null,
    -- Whether it is to be mended; what is not is only to be minded.
    wrong boolean not null,
    details jsonb not null,
    primary key (scene_id, language_id, place, number)
);
create index scene_finding_of_entry on scene_finding (entry_id, language_id) where wrong;
