-- Whether running products may ask for their texts over HTTP, and who else.
create table bundle_setting (
    product_id bigint primary key references product,
    served boolean not null,
    -- Whether they need no token.
    open boolean not null,
    -- Origins of pages whose scripts may read the answers (the Fetch standard, CORS protocol).
    origins text[] not null,
    version int not null
);
create table bundle_token (
    id bigint generated always as identity primary key,
    product_id bigint not null references product,
    hash bytea not null unique check (octet_length(hash) = 32),
    name text not null,
    -- Whether it is good for texts that were not delivered yet.
    live boolean not null,
    person_id bigint not null references person,
    made_at timestamptz not null,
    expires_at timestamptz not null,
    ended_at timestamptz,
    used_at timestamptz
);
create index bundle_token_of_product on bundle_token (product_id) where ended_at is null;
