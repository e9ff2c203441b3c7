-- A reader whose turn failed in passing waits until then.
alter table recipients add column next_try timestamptz;
