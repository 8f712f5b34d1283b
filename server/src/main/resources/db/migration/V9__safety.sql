-- Languages are never used up: their numbers were small, and anybody could have a new one. The larger tables are written anew by this, once.
alter table language alter column id type int;
alter table person_right alter column language_id type int;
alter table ledger_table alter column source_language_id type int;
alter table table_language alter column language_id type int;
alter table cell alter column language_id type int;
alter table offer alter column language_id type int;
alter table cell_story alter column language_id type int;
alter table coverage alter column language_id type int;
alter table product alter column start_language_id type int;
alter table product_language alter column language_id type int;
alter table coverage_day alter column language_id type int;
alter table activity alter column language_id type int;
alter table intake_cell_was alter column language_id type int;
alter table term alter column language_id type int;
alter table term_text alter column language_id type int;
alter table standing_rule alter column language_id type int;

-- What a file would do may concern a language that nobody has made yet, and finding it out makes none.
alter table intake_line add column language text;
update intake_line i set language = l.tag from language l where l.id = i.language_id;
alter table intake_line drop column language_id;

-- What people decided about single lines of open intakes. The lines themselves are found out again after a crash; this is not.
create table intake_decision (
    intake_id bigint not null,
    kind smallint not null,
    key text not null,
    context text not null,
    -- Empty for decisions about entries and sources.
    language text not null,
    choice smallint not null
);
create unique index intake_decision_once on intake_decision (intake_id, kind, md5(key || E'\n' || context), language);
insert into intake_decision (intake_id, kind, key, context, language, choice)
select distinct on (intake_id, kind, key, context, coalesce(language, '')) intake_id, kind, key, context, coalesce(language, ''), choice
from intake_line where choice is not null order by intake_id, kind, key, context, coalesce(language, ''), n desc;
drop index intake_line_decided;

-- Which server does a run, and with what; another goes on when it falls silent. Nobody can go on with what was begun before this.
alter table run drop constraint run_status_check;
update run set status = 'lost', message = 'The server stopped in the middle of it; nothing was changed, and it can be repeated.' where status = 'going';
alter table run
    add constraint run_status_check check (status in ('queued', 'going', 'done', 'failed', 'cancelled', 'lost')),
    add column arguments text not null default '',
    add column server uuid,
    add column attempts int not null default 1;
create index run_open on run (seen_at) where status in ('queued', 'going');

-- Sessions of a person hold while this number is what it was when they signed in: ending somebody's access ends those that are just being opened, too.
alter table person add column door int not null default 0;

-- Failed attempts to sign in, by who was meant and from where; a hash of both, so that nobody reads here who tried what. Browsers that somebody signed in
-- with are known again and counted by themselves.
drop table bucket;
create table attempt (
    what bytea primary key,
    failures int not null,
    last_at timestamptz not null
);
create index attempt_last on attempt (last_at);
create table known_browser (
    token_hash bytea not null,
    person_id bigint not null references person,
    seen_at timestamptz not null,
    primary key (token_hash, person_id)
);
create index known_browser_seen on known_browser (seen_at);

-- What was found when an asset or a picture was stored, so that it need not be looked at again: a media type that browsers may show, or nothing.
alter table stored_file add column media_type text, add column person_id bigint references person;
update stored_file set media_type = 'image/' || substring(name from '[^.]*$') where kind = 'picture';
create index stored_file_person on stored_file (person_id, created_at) where person_id is not null;

-- Keys may be as long as texts: a catalogue's key can be a paragraph, and an index over the key itself has no place for it.
drop index entry_key;
drop index entry_by_key;
create unique index entry_key on entry (table_id, md5(key), md5(context)) where removed_at is null;
create index entry_by_key on entry using hash (key);
drop index intake_line_spares;
create index intake_line_spares on intake_line (intake_id, md5(key)) where spares;
