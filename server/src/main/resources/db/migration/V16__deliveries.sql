-- What a product's languages are to its language switch, and where their missing texts come from.
alter table product_language add column hidden boolean not null default false;
alter table product_language add column shown_as text;
alter table product_language add column fallbacks smallint[] not null default '{}';
alter table product_language add column prefix text not null default '';
create table product_host (
    product_id bigint not null references product,
    host text not null,
    language_id smallint not null references language,
    primary key (product_id, host)
);

-- One thing that a product gets.
create table recipe (
    id bigint generated always as identity primary key,
    product_id bigint not null references product,
    position int not null,
    name text not null,
    settings jsonb not null,
    active boolean not null default true,
    version int not null default 0,
    removed_at timestamptz
);
create index recipe_of_product on recipe (product_id) where removed_at is null;

-- What must hold before a product's recipes go out, where they go, and when by themselves.
create table delivery_plan (
    product_id bigint primary key references product,
    gates jsonb not null,
    outbox boolean not null default false,
    every_hours int check (every_hours between 1 and 720),
    times text[] not null default '{}',
    zone text not null default 'UTC',
    -- Null when nothing goes out by itself.
    next_at timestamptz,
    -- Whose rights a delivery by itself has.
    person_id bigint references person,
    last_at timestamptz,
    last_said text not null default '',
    version int not null default 0
);
create index delivery_plan_next on delivery_plan (next_at) where next_at is not null;

-- Contents by their SHA-256, kept once, in parts of a megabyte.
create table delivered (
    hash bytea primary key check (octet_length(hash) = 32),
    bytes bigint not null
);
create table delivered_part (
    hash bytea not null references delivered,
    part int not null,
    content bytea not null,
    primary key (hash, part)
);

-- A numbered snapshot of a product.
create table delivery (
    id bigint generated always as identity primary key,
    product_id bigint not null references product,
    number int not null check (number > 0),
    at timestamptz not null,
    person_id bigint not null references person,
    scheduled boolean not null,
    recipes jsonb not null,
    languages jsonb not null,
    -- The number of each language, which programs out there write from then on.
    selectors jsonb not null,
    -- Of all paths and hashes, in order.
    contents bytea not null,
    files int not null,
    bytes bigint not null,
    changed int not null,
    recalled_at timestamptz,
    recalled_by bigint references person,
    recall_reason text,
    -- When it lay in the outbox as a whole; null where it has to go there still.
    outbox_at timestamptz,
    to_outbox boolean not null,
    unique (product_id, number),
    check ((recalled_at is null) = (recall_reason is null))
);
create table delivery_file (
    delivery_id bigint not null references delivery,
    path text not null,
    recipe_id bigint not null references recipe,
    language_id smallint references language,
    hash bytea not null references delivered,
    primary key (delivery_id, path)
);
-- What was in force in a language, a line per entry.
create table delivery_texts (
    delivery_id bigint not null references delivery,
    language_id smallint not null references language,
    texts int not null,
    hash bytea not null references delivered,
    primary key (delivery_id, language_id)
);

-- Numbers that programs know entries by: given once, never to another.
create table entry_number (
    product_id bigint not null references product,
    entry_id bigint not null references entry,
    number int not null check (number > 0),
    primary key (product_id, entry_id),
    unique (product_id, number)
);
