-- An intake is of one file or of a set: one file per language, that of the sources first. "reading" is how a file of a set is read, null where the
-- intake says it; "facts" is what was found in it when it was looked at last.
create table intake_file (
    intake_id bigint not null references intake,
    position int not null,
    path text not null,
    file_id bigint not null references stored_file,
    reading jsonb,
    source boolean not null,
    left_out boolean not null default false,
    facts jsonb,
    primary key (intake_id, position),
    unique (intake_id, path)
);
insert into intake_file (intake_id, position, path, file_id, source) select id, 0, file_name, file_id, true from intake;
alter table intake drop column file_id;
-- Paths of a set with {} where the language stands, and what told its source language; null for one file.
alter table intake add column pattern text, add column evidence text;
-- What every path of an intake held before.
update intake set master_was = jsonb_build_array(master_was) where master_was is not null;

-- Files that came together and wait to be sorted into intakes; those that stand apart stay a day, in case somebody wants them after all.
create table dropped (
    id bigint generated always as identity primary key,
    person_id bigint not null references person,
    reply jsonb,
    created_at timestamptz not null
);
create index dropped_created on dropped (created_at);
create table dropped_file (
    drop_id bigint not null references dropped on delete cascade,
    path text not null,
    file_id bigint not null references stored_file,
    primary key (drop_id, path)
);
