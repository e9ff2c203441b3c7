-- What readers do is counted with the edition they got. What programs do that look at links and pictures ahead of people is
-- kept as well, as kinds of its own: 12 opened, 13 clicked.
alter table events add column edition smallint;
