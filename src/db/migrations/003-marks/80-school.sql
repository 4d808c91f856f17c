-- The school's own name, address and time zone, which an administrator can change.
alter table school
  add column address text constraint school_address_length check (length(address) <= 200),
  add column version integer not null default 1;
create trigger next_version before insert or update on school for each row execute function kedge_next_version();
grant update (name, time_zone, address) on school to kedge_app;
