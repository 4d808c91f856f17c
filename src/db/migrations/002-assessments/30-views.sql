-- What the former tables held stands in the new ones.
drop view assessment_score;
drop table answer, answer_sheet, assessment_class;
alter table question drop column choices, drop column key, drop column points, drop column standard_id, drop column page;
alter table assessment drop column document_id, drop column given_on, drop column secure_from, drop column nearly_from;
drop table learning_standard;
drop function kedge_keep_history_answer(), kedge_keep_history_answer_sheet(), kedge_keep_history_assessment_class(), kedge_keep_history_learning_standard();
select kedge_keep_history_of('question', '{assessment_id, id}'), kedge_keep_history_of('assessment', '{id}');

-- A question as it is asked and counts now.
create view asked_question with (security_invoker = true) as
  select q.school_id, q.assessment_id, q.id, q.position, q.kind, k.from_version, k.content, k.points, k.counts
  from question q join question_key k on k.school_id = q.school_id and k.assessment_id = q.assessment_id and k.question_id = q.id
  where q.position is not null and k.until_version is null;
grant select on asked_question to kedge_app;

-- What an assessment is worth in all, and each of its learning standards.
create view assessment_total with (security_invoker = true) as
  select q.school_id, q.assessment_id, sum(q.points) as most
  from asked_question q where q.counts <> 'dropped' group by q.school_id, q.assessment_id;
grant select on assessment_total to kedge_app;

-- What counts of a response: its strongest points; a question given to all counts also where it was left out. What was
-- answered and has no points yet is not marked.
create view counted_response with (security_invoker = true) as
  select a.school_id, a.assessment_id, a.student_id, a.number as attempt, q.id as question_id, r.value,
    case when q.counts = 'given' then q.points else coalesce(o.points, h.points, b.points, k.points) end as points,
    case when q.counts = 'given' then 'given' when o.points is not null then 'override' when h.points is not null then 'hand'
      when b.points is not null then 'rubric' when k.points is not null then 'key' end as source,
    (q.counts = 'keyed' and r.value is not null and coalesce(o.points, h.points, b.points, k.points) is null) as unmarked
  from attempt a
  join asked_question q on q.school_id = a.school_id and q.assessment_id = a.assessment_id
  left join response r on r.school_id = a.school_id and r.assessment_id = a.assessment_id and r.student_id = a.student_id
    and r.attempt = a.number and r.question_id = q.id
  left join response_points o on o.school_id = a.school_id and o.assessment_id = a.assessment_id and o.student_id = a.student_id
    and o.attempt = a.number and o.question_id = q.id and o.source = 'override'
  left join response_points h on h.school_id = a.school_id and h.assessment_id = a.assessment_id and h.student_id = a.student_id
    and h.attempt = a.number and h.question_id = q.id and h.source = 'hand'
  left join response_points b on b.school_id = a.school_id and b.assessment_id = a.assessment_id and b.student_id = a.student_id
    and b.attempt = a.number and b.question_id = q.id and b.source = 'rubric'
  left join response_points k on k.school_id = a.school_id and k.assessment_id = a.assessment_id and k.student_id = a.student_id
    and k.attempt = a.number and k.question_id = q.id and k.source = 'key'
  where a.state = 'handed in' and q.counts <> 'dropped';
grant select on counted_response to kedge_app;

-- Each attempt that was handed in, and which of them count by the assessment's rule.
create view attempt_result with (security_invoker = true) as
  select a.school_id, a.assessment_id, a.student_id, a.number as attempt, a.version, a.changed_by, a.changed_at,
    coalesce(r.points, 0) as points, coalesce(r.unmarked, 0) as unmarked,
    case s.attempts_count
      when 'latest' then row_number() over (partition by a.school_id, a.assessment_id, a.student_id order by a.number desc) = 1
      when 'best' then row_number() over (partition by a.school_id, a.assessment_id, a.student_id order by coalesce(r.points, 0) desc, a.number desc) = 1
      else true end as counts
  from attempt a join assessment s on s.school_id = a.school_id and s.id = a.assessment_id
  left join lateral (select sum(c.points) as points, (count(*) filter (where c.unmarked))::integer as unmarked from counted_response c
    where c.school_id = a.school_id and c.assessment_id = a.assessment_id and c.student_id = a.student_id and c.attempt = a.number) r on true
  where a.state = 'handed in';
grant select on attempt_result to kedge_app;

-- The result of each student: of the attempt that counts, or the mean of all.
create view assessment_result with (security_invoker = true) as
  select r.school_id, r.assessment_id, r.student_id, round(avg(r.points), 2) as points, sum(r.unmarked)::integer as unmarked,
    max(r.version) as version, max(r.changed_at) as changed_at, (array_agg(r.changed_by order by r.changed_at desc))[1] as changed_by
  from attempt_result r where r.counts group by r.school_id, r.assessment_id, r.student_id;
grant select on assessment_result to kedge_app;

-- What an assessment is worth in each of its learning standards; a question with several counts fully in each.
create view assessment_standard_total with (security_invoker = true) as
  select t.school_id, t.assessment_id, t.standard_id, sum(q.points) as most
  from question_standard t join asked_question q on q.school_id = t.school_id and q.assessment_id = t.assessment_id and q.id = t.question_id
  where q.counts <> 'dropped' group by t.school_id, t.assessment_id, t.standard_id;
grant select on assessment_standard_total to kedge_app;

-- The result of each student in each learning standard, of the same attempts as the result of the whole.
create view assessment_standard_result with (security_invoker = true) as
  select r.school_id, r.assessment_id, x.standard_id, r.student_id, round(avg(x.points), 2) as points, sum(x.unmarked)::integer as unmarked,
    max(r.version) as version, max(r.changed_at) as changed_at, (array_agg(r.changed_by order by r.changed_at desc))[1] as changed_by
  from attempt_result r
  join lateral (select t.standard_id, coalesce(sum(c.points), 0) as points, (count(*) filter (where c.unmarked))::integer as unmarked
    from counted_response c join question_standard t on t.school_id = c.school_id and t.assessment_id = c.assessment_id and t.question_id = c.question_id
    where c.school_id = r.school_id and c.assessment_id = r.assessment_id and c.student_id = r.student_id and c.attempt = r.attempt
    group by t.standard_id) x on true
  where r.counts group by r.school_id, r.assessment_id, x.standard_id, r.student_id;
grant select on assessment_standard_result to kedge_app;

-- An assignment shows the whole of an assessment or one of its standards, in its points or scaled to the assignment's own.
alter table assignment
  add column standard_id uuid,
  add column scaled boolean not null default false,
  add constraint assignment_of_standard check (assessment_id is not null or (standard_id is null and not scaled)),
  add foreign key (school_id, standard_id) references standard (school_id, id);
create index assignment_school_id_standard_id_fkey_index on assignment (school_id, standard_id);
drop index assignment_of_assessment;
create unique index assignment_of_assessment on assignment (school_id, assessment_id, class_id, standard_id) nulls not distinct
  where (assessment_id is not null);
select kedge_keep_history_of('assignment', '{id}');
