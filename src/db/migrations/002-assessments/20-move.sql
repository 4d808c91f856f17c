-- What was there, school by school: row-level security holds for the tables' owner too.
do $$
  declare
    school_to_move uuid;
  begin
    for school_to_move in select s.id from school s order by s.id loop
      perform set_config('kedge.school', school_to_move::text, true), set_config('kedge.history', 'off', true);

      insert into standard_set (school_id, id, name, subject_id)
        select u.school_id, u.id, u.name, u.id from subject u
        where exists (select 1 from learning_standard l where l.school_id = u.school_id and l.subject_id = u.id);
      insert into standard (school_id, id, set_id, position, code, statement)
        select l.school_id, l.id, l.subject_id, row_number() over (partition by l.subject_id order by l.code), l.code, l.statement
        from learning_standard l;

      -- An assessment's first form and first sitting are called as it is.
      insert into form (school_id, assessment_id, id) select a.school_id, a.id, a.id from assessment a;
      insert into form_document (school_id, assessment_id, form_id, document_id)
        select a.school_id, a.id, a.id, a.document_id from assessment a where a.document_id is not null;
      insert into sitting (school_id, assessment_id, id, form_id, given_on, given_by)
        select a.school_id, a.id, a.id, a.id, a.given_on, a.owner_id from assessment a;
      insert into sitting_class (school_id, assessment_id, sitting_id, class_id)
        select c.school_id, c.assessment_id, c.assessment_id, c.class_id from assessment_class c;
      insert into assessment_level (school_id, assessment_id, position, name, from_percent)
        select a.school_id, a.id, l.position, l.name, l.from_percent from assessment a
        cross join lateral (values (1, 'secure', a.secure_from), (2, 'nearly', a.nearly_from), (3, 'not yet', null)) l(position, name, from_percent);

      insert into key_version (school_id, assessment_id, number, made_by, made_at)
        select a.school_id, a.id, 1, 'Kedge', a.created_at from assessment a;
      insert into question_key (school_id, assessment_id, question_id, from_version, content, points)
        select q.school_id, q.assessment_id, q.id, 1, jsonb_build_object(
            'choices', (select jsonb_agg(chr(64 + n) order by n) from generate_series(1, q.choices) n), 'right', q.key), q.points
        from question q;
      insert into question_standard (school_id, assessment_id, question_id, standard_id)
        select q.school_id, q.assessment_id, q.id, q.standard_id from question q where q.standard_id is not null;
      insert into question_place (school_id, assessment_id, form_id, question_id, page)
        select q.school_id, q.assessment_id, q.assessment_id, q.id, q.page from question q where q.page is not null;

      insert into attempt (school_id, assessment_id, student_id, state, changed_by, changed_at)
        select s.school_id, s.assessment_id, s.student_id, case when s.answered then 'handed in' else 'taken back' end, s.changed_by, s.changed_at
        from answer_sheet s;
      insert into response (school_id, assessment_id, student_id, question_id, value)
        select a.school_id, a.assessment_id, a.student_id, a.question_id, to_jsonb(a.choice) from answer a;
      insert into response_points (school_id, assessment_id, student_id, question_id, source, points, key_version)
        select a.school_id, a.assessment_id, a.student_id, a.question_id, 'key', case when a.choice = q.key then q.points else 0 end, 1
        from answer a join question q on q.school_id = a.school_id and q.assessment_id = a.assessment_id and q.id = a.question_id
        where q.key is not null;
    end loop;
    perform set_config('kedge.school', '', true), set_config('kedge.history', '', true);
  end $$;
set constraints all immediate;
set constraints all deferred;
