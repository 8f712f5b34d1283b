alter table cell validate constraint cell_coded;
alter table offer validate constraint offer_coded;
alter table coverage validate constraint coverage_coded;
alter table cell_story validate constraint cell_story_coded;
alter table intake_cell_was validate constraint intake_cell_was_coded;
alter table intake_line validate constraint intake_line_coded;
alter table intake_decision validate constraint intake_decision_coded;
