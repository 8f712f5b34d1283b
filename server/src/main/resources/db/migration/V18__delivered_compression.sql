-- What was delivered is text for the most part, and the usual compression takes longer than writing it. A server that was built without lz4 keeps the usual one.
do $$
begin
    alter table delivered_part alter column content set compression lz4;
exception
    when feature_not_supported then
        raise notice 'This PostgreSQL has no lz4; contents of deliveries are compressed as usual.';
end
$$;
