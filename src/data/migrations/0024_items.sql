CREATE TABLE "outcome_priors" (
	"outcome_id" integer PRIMARY KEY NOT NULL,
	"a" double precision NOT NULL,
	"b" double precision NOT NULL
);
--> statement-breakpoint
CREATE TABLE "answer_steps" (
	"course_id" integer NOT NULL,
	"event_id" text NOT NULL,
	"enrolment_id" integer NOT NULL,
	"activity_id" integer NOT NULL,
	"item" text NOT NULL,
	"answer" text NOT NULL,
	"score" double precision,
	"seconds" double precision,
	"hints" integer DEFAULT 0 NOT NULL,
	CONSTRAINT "answer_steps_course_id_event_id_pk" PRIMARY KEY("course_id","event_id")
);
--> statement-breakpoint
CREATE TABLE "goals" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "goals_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"course_id" integer NOT NULL,
	"enrolment_id" integer,
	"outcome_ids" jsonb NOT NULL,
	"at_start" jsonb NOT NULL,
	"from_day" date NOT NULL,
	"by_day" date NOT NULL,
	"user_id" text
);
--> statement-breakpoint
CREATE TABLE "grade_bases" (
	"enrolment_id" integer NOT NULL,
	"activity_id" integer NOT NULL,
	"points" double precision NOT NULL,
	"share" double precision NOT NULL,
	CONSTRAINT "grade_bases_enrolment_id_activity_id_pk" PRIMARY KEY("enrolment_id","activity_id")
);
--> statement-breakpoint
CREATE TABLE "item_changes" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "item_changes_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"course_id" integer NOT NULL,
	"activity_id" integer NOT NULL,
	"item" text NOT NULL,
	"user_id" text,
	"at" timestamp with time zone NOT NULL,
	"before" jsonb NOT NULL,
	"after" jsonb NOT NULL,
	"batch" text NOT NULL,
	"moved" integer NOT NULL,
	"undone_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "item_norms" (
	"activity_id" integer NOT NULL,
	"item" text NOT NULL,
	"p" double precision NOT NULL,
	"least" double precision,
	"usual" double precision,
	"choices" integer NOT NULL,
	CONSTRAINT "item_norms_activity_id_item_pk" PRIMARY KEY("activity_id","item")
);
--> statement-breakpoint
CREATE TABLE "item_questions" (
	"enrolment_id" integer NOT NULL,
	"activity_id" integer NOT NULL,
	"item" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"handled_at" timestamp with time zone,
	CONSTRAINT "item_questions_enrolment_id_activity_id_item_pk" PRIMARY KEY("enrolment_id","activity_id","item")
);
--> statement-breakpoint
CREATE TABLE "items" (
	"activity_id" integer NOT NULL,
	"item" text NOT NULL,
	"stem" text,
	"options" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"keys" jsonb,
	"keys_came" jsonb,
	"explanation" text,
	"treatment" text DEFAULT 'scored' NOT NULL,
	"rev" integer DEFAULT 0 NOT NULL,
	CONSTRAINT "items_activity_id_item_pk" PRIMARY KEY("activity_id","item")
);
--> statement-breakpoint
CREATE TABLE "tests" (
	"enrolment_id" integer NOT NULL,
	"outcome_id" integer NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"share" double precision NOT NULL,
	"weight" double precision NOT NULL,
	CONSTRAINT "tests_enrolment_id_outcome_id_at_pk" PRIMARY KEY("enrolment_id","outcome_id","at")
);
--> statement-breakpoint
ALTER TABLE "messages" ADD COLUMN "item" text;--> statement-breakpoint
ALTER TABLE "tray_items" ADD COLUMN "item" text;--> statement-breakpoint
ALTER TABLE "responses" ADD COLUMN "seconds" double precision;--> statement-breakpoint
ALTER TABLE "responses" ADD COLUMN "hints" integer;--> statement-breakpoint
ALTER TABLE "outcome_priors" ADD CONSTRAINT "outcome_priors_outcome_id_outcomes_id_fk" FOREIGN KEY ("outcome_id") REFERENCES "public"."outcomes"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "answer_steps" ADD CONSTRAINT "answer_steps_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "answer_steps" ADD CONSTRAINT "answer_steps_activity_id_activities_id_fk" FOREIGN KEY ("activity_id") REFERENCES "public"."activities"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "answer_steps" ADD CONSTRAINT "answer_steps_event" FOREIGN KEY ("course_id","event_id") REFERENCES "public"."events"("course_id","event_id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "goals" ADD CONSTRAINT "goals_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "goals" ADD CONSTRAINT "goals_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "goals" ADD CONSTRAINT "goals_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."user"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "grade_bases" ADD CONSTRAINT "grade_bases_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "grade_bases" ADD CONSTRAINT "grade_bases_activity_id_activities_id_fk" FOREIGN KEY ("activity_id") REFERENCES "public"."activities"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item_changes" ADD CONSTRAINT "item_changes_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item_changes" ADD CONSTRAINT "item_changes_activity_id_activities_id_fk" FOREIGN KEY ("activity_id") REFERENCES "public"."activities"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item_changes" ADD CONSTRAINT "item_changes_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."user"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item_norms" ADD CONSTRAINT "item_norms_activity_id_activities_id_fk" FOREIGN KEY ("activity_id") REFERENCES "public"."activities"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item_questions" ADD CONSTRAINT "item_questions_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item_questions" ADD CONSTRAINT "item_questions_activity_id_activities_id_fk" FOREIGN KEY ("activity_id") REFERENCES "public"."activities"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "items" ADD CONSTRAINT "items_activity_id_activities_id_fk" FOREIGN KEY ("activity_id") REFERENCES "public"."activities"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "tests" ADD CONSTRAINT "tests_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "tests" ADD CONSTRAINT "tests_outcome_id_outcomes_id_fk" FOREIGN KEY ("outcome_id") REFERENCES "public"."outcomes"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "answer_steps_student" ON "answer_steps" USING btree ("enrolment_id","activity_id");--> statement-breakpoint
CREATE INDEX "answer_steps_activity" ON "answer_steps" USING btree ("activity_id","item");--> statement-breakpoint
CREATE INDEX "goals_course" ON "goals" USING btree ("course_id");--> statement-breakpoint
CREATE INDEX "item_changes_item" ON "item_changes" USING btree ("activity_id","item");--> statement-breakpoint
CREATE INDEX "item_questions_activity" ON "item_questions" USING btree ("activity_id");--> statement-breakpoint
CREATE FUNCTION item_score(came double precision, answer text, treatment text, keys jsonb, keys_came jsonb)
RETURNS double precision LANGUAGE sql IMMUTABLE AS $$
	SELECT CASE
		WHEN treatment = 'given' THEN 1
		WHEN treatment = 'dropped' THEN NULL
		WHEN treatment IS NULL OR keys IS NULL THEN came
		WHEN came IS NULL THEN CASE WHEN btrim(answer, E' \t\n\r\f\v') = '' THEN NULL WHEN keys ? btrim(answer, E' \t\n\r\f\v') THEN 1 ELSE 0 END
		WHEN keys ? btrim(answer, E' \t\n\r\f\v') THEN CASE WHEN coalesce(keys_came, keys) ? btrim(answer, E' \t\n\r\f\v') THEN came ELSE 1 END
		WHEN coalesce(keys_came, keys) ? btrim(answer, E' \t\n\r\f\v') THEN 0
		ELSE came
	END
$$;
--> statement-breakpoint
CREATE VIEW "public"."answers_now" AS (
  with gaps as (
    select st.*, e.at,
      case when e.at - lag(e.at) over sat > make_interval(mins => c.session_gap_minutes) then 1 else 0 end as begins
    from answer_steps st
    join events_now e on e.course_id = st.course_id and e.event_id = st.event_id
    join courses c on c.id = st.course_id
    window sat as (partition by st.enrolment_id, st.activity_id order by e.at, st.event_id)
  ), sittings as (
    select gaps.*, 1 + sum(begins) over (partition by enrolment_id, activity_id order by at, event_id)::int as attempt
    from gaps
  ), steps as (
    select enrolment_id, activity_id, item, attempt,
      first_value(answer) over of_item as answer, last_value(answer) over of_item as final,
      first_value(at) over of_item as at, first_value(seconds) over of_item as seconds,
      first_value(hints) over of_item as hints, first_value(score) over of_item as score,
      last_value(score) over of_item as final_score,
      row_number() over of_item as step
    from sittings
    window of_item as (partition by enrolment_id, activity_id, attempt, item order by at, event_id
      rows between unbounded preceding and unbounded following)
  ), told as (
    select enrolment_id, activity_id, item, attempt, answer, answer as final, at, seconds, coalesce(hints, 0) as hints,
      score, score as final_score
    from responses
    union all
    select enrolment_id, activity_id, item, attempt, answer, final, at, seconds, hints, score, final_score
    from steps
    where step = 1 and not exists (
      select 1 from responses r where r.enrolment_id = steps.enrolment_id and r.activity_id = steps.activity_id)
  )
  select told.enrolment_id, told.activity_id, told.item, told.attempt, told.answer, told.final, told.at, told.seconds,
    told.hints, told.score as came,
    item_score(told.score, told.answer, i.treatment, i.keys, i.keys_came) as score,
    item_score(told.final_score, told.final, i.treatment, i.keys, i.keys_came) as final_score
  from told left join items i on i.activity_id = told.activity_id and i.item = told.item);