-- Programs that are told what was delivered. The secret signs what they are told, so it is kept as it is.
create table webhook (
    id bigint generated always as identity primary key,
    product_id bigint not null references product,
    address text not null,
    secret text not null,
    person_id bigint not null references person,
    made_at timestamptz not null,
    removed_at timestamptz
);
create index webhook_of_product on webhook (product_id) where removed_at is null;
create table webhook_call (
    id bigint generated always as identity primary key,
    webhook_id bigint not null references webhook,
    delivery_id bigint not null references delivery,
    event text not null check (event in ('delivered', 'recalled')),
    body text not null,
    attempts int not null default 0,
    -- Null when it was heard, or given up.
    next_at timestamptz,
    last_at timestamptz,
    heard_at timestamptz,
    said text not null default ''
);
create index webhook_call_next on webhook_call (next_at) where next_at is not null;
create index webhook_call_of on webhook_call (webhook_id, id);

-- Why a delivery does not lie in the outbox yet; empty when nothing went wrong.
alter table delivery add column outbox_said text not null default '';
