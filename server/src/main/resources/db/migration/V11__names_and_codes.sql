-- Versions of a cell are called versions; what is called "at" is a time. Both servers of an update have to stop for this one: the older knows other names.
alter table cell rename column text_at to text_version;
alter table intake_cell_was rename column text_at to text_version;
alter table offer rename column opened_at to opened_version;
alter table offer rename column answered_at to answered_version;

-- Coded columns hold no other numbers than core's values. Rows that are there are looked at by the next migration, without holding anybody up.
alter table cell add constraint cell_coded check (state between 0 and 5 and standing between 0 and 2) not valid;
alter table offer add constraint offer_coded check (answer between 0 and 5) not valid;
alter table coverage add constraint coverage_coded check (state between 0 and 4) not valid;
alter table cell_story add constraint cell_story_coded check (standing between 0 and 2) not valid;
alter table intake_cell_was add constraint intake_cell_was_coded check (standing between 0 and 2) not valid;
alter table intake_line add constraint intake_line_coded
    check (kind between 0 and 20 and taken between 0 and 2 and usual between 0 and 11 and choice between 0 and 11) not valid;
alter table intake_decision add constraint intake_decision_coded check (kind between 0 and 20 and choice between 0 and 11) not valid;
