-- How an offered text came to be, what its author says to the reviewer, and how much an amended one was changed: characters replaced, put in or left
-- out, of the characters of the longer text.
alter table offer
    add column origin text not null default 'file',
    add column note text not null default '',
    add column by_rule boolean not null default false,
    add column changed int,
    add column changed_of int;
update offer set origin = 'typed' where intake_id is null;
update offer o set origin = s.origin from cell_story s
where s.entry_id = o.entry_id and s.language_id = o.language_id and s.offer_id = o.id and s.what = 'offered' and s.origin <> 'undo';

-- What reviewers answered to whom, without reading the offers: shares, and how many were settled in a row.
create index offer_answers on offer (language_id, author_id, answered_time) include (answer) where answer in (1, 2, 3) and not by_rule;
create index offer_author on offer (author_id, id);
create index offer_answered on offer (language_id, answered_time) where answer <> 0;
create index offer_offered on offer (language_id, offered_time);
-- Lines are written in the order of time, so their pages hold short spans of it.
create index cell_story_time on cell_story using brin (at);

-- Per language: offers of contributors are settled at once after so many settled in a row. No row: off.
create table standing_rule (
    language_id smallint primary key references language,
    after int not null check (after between 3 and 1000),
    set_by bigint not null references person,
    set_at timestamptz not null
);

-- What came of answering many offers by one run; written in the transaction that answers them.
create table answering (
    change_id bigint primary key,
    person_id bigint not null references person,
    changed int not null,
    refused int not null,
    told jsonb not null
);

-- Until when someone has looked at their notices.
alter table person add column bell_seen_at timestamptz;
