-- A design is written with every save: packing it took half of the time of one. (Versions, written seldom, stay packed.)
alter table campaigns alter column email set storage external;
