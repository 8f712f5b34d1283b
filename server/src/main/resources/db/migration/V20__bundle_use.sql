-- Whether anybody may see how far a product's languages are.
alter table bundle_setting add column shown boolean not null default false;
-- How often products asked for their texts: by day, what asked, and what for.
create table bundle_use (
    product_id bigint not null references product,
    day date not null,
    -- 0 for nobody in particular, -1 for whoever was refused for lack of a token.
    token_id bigint not null,
    what text not null check (what in ('list', 'texts', 'changes', 'live', 'events')),
    -- Its tag; empty where none was found.
    language text not null,
    answered bigint not null,
    unchanged bigint not null,
    refused bigint not null,
    bytes bigint not null,
    last_at timestamptz not null,
    primary key (product_id, day, token_id, what, language)
);
create index bundle_use_of_day on bundle_use (day);
