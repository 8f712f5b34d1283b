-- A rule for keys has only sources and their keys looked at again. Looking only where something was found was never asked for.
alter table recheck drop column found;
alter table recheck add column sources_only boolean not null default false;
