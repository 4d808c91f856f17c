-- What counts, and how, beside what a gradebook said before: all as it was where nobody says otherwise.

alter table gradebook
  add column method text not null default 'weights',
  add column incomplete_counts text not null default 'nothing',
  add column late_percent numeric(5,2),
  add column late_of text,
  add column most numeric(5,2) default 100,
  add constraint gradebook_method check (method in ('weights', 'points')),
  add constraint gradebook_incomplete check (incomplete_counts in ('nothing', 'zero')),
  add constraint gradebook_late check (late_percent > 0 and late_percent <= 100),
  add constraint gradebook_late_of check (late_of in ('points scored', 'points possible')),
  add constraint gradebook_late_whole check ((late_percent is null) = (late_of is null)),
  add constraint gradebook_most check (most >= 1);
select kedge_keep_history_of('gradebook', '{class_id, term_id}');

alter table category
  add column within text not null default 'points',
  add constraint category_within check (within in ('points', 'pieces'));
select kedge_keep_history_of('category', '{id}');

alter table assignment add column extra boolean not null default false;
select kedge_keep_history_of('assignment', '{id}');

alter table score
  -- Yes or nothing: the history of a score that is in time does not tell of it.
  add column late boolean check (late),
  drop constraint score_standing_check,
  add constraint score_standing check (standing in ('missing', 'excused', 'incomplete')),
  add constraint score_late_points check (late is null or points is not null);
select kedge_keep_history_of('score', '{assignment_id, student_id}');
