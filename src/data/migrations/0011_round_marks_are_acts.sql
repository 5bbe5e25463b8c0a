INSERT INTO "acts" ("course_id", "enrolment_id", "user_id", "kind", "on_day", "follow_up_on", "reason", "answers", "recipient_id", "at")
SELECT m.course_id, m.enrolment_id, m.user_id, m.action, m.on_day, m.until_day, m.reason,
	(SELECT coalesce(jsonb_agg(c || jsonb_build_object('flag', (
		SELECT max(f.id) FROM "flags" f
		WHERE f.enrolment_id = m.enrolment_id AND f.kind = c->>'kind' AND f.opened_on <= m.on_day
			AND (f.closed_on IS NULL OR f.closed_on >= m.on_day)))), '[]') FROM jsonb_array_elements(m.covered) c),
	-- A message was kept in the transaction that marked its recipients.
	(SELECT r.id FROM "recipients" r JOIN "messages" g ON g.id = r.message_id
		WHERE m.action IN ('messaged', 'planned') AND r.enrolment_id = m.enrolment_id AND g.user_id = m.user_id
			AND abs(extract(epoch FROM g.created_at - m.at)) < 60
		ORDER BY abs(extract(epoch FROM g.created_at - m.at)) LIMIT 1),
	m.at
FROM "round_marks" m ORDER BY m.id;--> statement-breakpoint
INSERT INTO "acts" ("course_id", "enrolment_id", "user_id", "kind", "on_day", "answers", "note_id", "at")
SELECT n.course_id, n.enrolment_id, n.user_id, n.kind, n.on_day, '[]', n.id, n.at FROM "notes" n ORDER BY n.id;--> statement-breakpoint
DROP TABLE "round_marks" CASCADE;
