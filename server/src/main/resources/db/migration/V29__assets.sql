-- What pictures and sounds are, told by their content: a kind, or null for a file of another kind. Sizes in pixels, lengths in milliseconds.
create table asset_fact (
    file_id bigint primary key references stored_file on delete cascade,
    sha256 bytea not null,
    kind text,
    width int not null default 0,
    height int not null default 0,
    milliseconds bigint not null default 0
);
create index asset_fact_content on asset_fact (sha256);
-- All of them together have a limit.
create index stored_file_assets on stored_file (bytes) where kind = 'asset';

-- Pictures and sounds that came together and wait until somebody has said which entry and language each is for; "proposed" are the patterns that names tell.
create table asset_set (
    id bigint generated always as identity primary key,
    person_id bigint not null references person,
    options jsonb not null,
    proposed text[] not null default '{}',
    version int not null default 0,
    intake_id bigint references intake,
    created_at timestamptz not null
);
create index asset_set_created on asset_set (created_at);
create index asset_set_intake on asset_set (intake_id);
-- Key and language as somebody said, null for what the name says; "problem" is why the file cannot go in, "gone" what was taken out of it.
create table asset_set_file (
    set_id bigint not null references asset_set on delete cascade,
    position int not null,
    path text not null,
    file_id bigint references stored_file,
    problem text,
    gone text[] not null default '{}',
    key text,
    language text,
    left_out boolean,
    primary key (set_id, position)
);
create index asset_set_file_stored on asset_set_file (file_id);

-- A sound that speaks the text of another entry, and a print of what its own source was when that was looked at last.
create table recording (
    entry_id bigint primary key references entry,
    line_id bigint not null references entry,
    source_print text not null
);
create index recording_line_of on recording (line_id);
-- What the line says in a language, in that of the table its source: what it said when the sound was recorded, and when it was looked at last. "was_based_on" is
-- that of the sound's cell before a rewritten line made it stale, null while the line did not.
create table recording_line (
    entry_id bigint not null references recording on delete cascade,
    language_id smallint not null,
    made_for text not null,
    last text not null,
    was_based_on int,
    primary key (entry_id, language_id)
);
