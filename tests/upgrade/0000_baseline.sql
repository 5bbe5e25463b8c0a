insert into "user" (id, name, email, email_verified, role, created_at, updated_at)
  values ('u', 'Ines Calloway', 'ines@x.example', true, 'instructor', now(), now());
insert into courses (code, title, term_name, zone, term_start, term_weeks, breaks, policy, indicators, session_gap_minutes)
  values ('NAV', 'Navigation', 'Autumn', 'Europe/Lisbon', '2026-09-28', 15, '[]', '{"missing":"zero"}', '{}', 30);
insert into course_staff (course_id, user_id, role) values (1, 'u', 'instructor');
insert into persons (external_id, given, family, email) values ('s1', 'Bo', 'Li', 'bo@students.example');
insert into enrolments (course_id, person_id, status) values (1, 1, 'active');
insert into categories (course_id, name, weight) values (1, 'Quizzes', 100);
insert into activities (course_id, external_id, title, kind, category_id, points, due_at, position)
  values (1, 'q1', 'Tides quiz', 'quiz', 1, 10, '2026-10-21T22:00:00Z', 0);
insert into scores (enrolment_id, activity_id, points, submitted_at, graded_at, returned_at)
  values (1, 1, 8, '2026-10-20T10:00:00Z', '2026-10-22T10:00:00Z', '2026-10-22T10:00:00Z');
insert into items (activity_id, item, keys, treatment) values (1, 'i1', '["A"]', 'given');
insert into responses (enrolment_id, activity_id, item, attempt, answer, score) values (1, 1, 'i1', 1, 'A', 0);
insert into messages (course_id, user_id, key, subject, body, reason, created_at)
  values (1, 'u', 'k', 'A word', 'Shall we talk?', 'behind', '2026-10-12T10:00:00Z');
insert into recipients (message_id, enrolment_id, subject, body, mail_state)
  values (1, 1, 'A word', 'Shall we talk?', 'sent');
insert into replies (course_id, enrolment_id, recipient_id, body, via, key, at)
  values (1, 1, 1, 'Yes, Friday.', 'here', 'r', '2026-10-13T10:00:00Z');
insert into notes (course_id, enrolment_id, user_id, kind, on_day, text, at)
  values (1, 1, 'u', 'talk', '2026-10-11', 'Works at night.', '2026-10-11T10:00:00Z');
