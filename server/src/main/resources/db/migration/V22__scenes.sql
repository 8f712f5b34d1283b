-- Drawings of products, with places that show entries.
create table scene (
    id bigint generated always as identity primary key,
    product_id bigint not null references product,
    name text not null check (length(name) between 1 and 200),
    version int not null,
    removed_at timestamptz
);
create unique index scene_once on scene (product_id, lower(name)) where removed_at is null;

-- Every drawing that a scene had; the last one is shown.
create table scene_drawing (
    scene_id bigint not null references scene,
    version int not null,
    width double precision not null,
    height double precision not null,
    -- SVG that only draws, see docs/scenes.md.
    drawing text not null,
    person_id bigint not null references person,
    added_at timestamptz not null,
    primary key (scene_id, version)
);

-- Where the last drawing shows what.
create table scene_place (
    scene_id bigint not null references scene,
    number int not null,
    key text not null,
    -- The entry that it showed when it was drawn, whatever its key is now; null where there was none.
    entry_id bigint references entry,
    asset boolean not null,
    x double precision not null,
    y double precision not null,
    width double precision not null,
    height double precision not null,
    lines int not null,
    size double precision not null,
    align text not null,
    keeps_direction boolean not null,
    latin_digits boolean not null,
    form text not null,
    sample jsonb not null,
    primary key (scene_id, number)
);
create index scene_place_of_entry on scene_place (entry_id);
