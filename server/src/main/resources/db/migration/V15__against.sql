-- What keeps a file's text from being settled, in sentences.
alter table intake_line add column against text;
