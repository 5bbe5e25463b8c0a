CREATE TABLE "messages" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "messages_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"course_id" integer NOT NULL,
	"user_id" text NOT NULL,
	"key" text NOT NULL,
	"subject" text NOT NULL,
	"body" text NOT NULL,
	"reason" text NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	CONSTRAINT "messages_key_unique" UNIQUE("key")
);
--> statement-breakpoint
CREATE TABLE "plan_steps" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "plan_steps_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"plan_id" integer NOT NULL,
	"position" integer NOT NULL,
	"activity_id" integer,
	"title" text NOT NULL,
	"minutes" integer NOT NULL,
	"on_day" date NOT NULL,
	"why" text NOT NULL,
	"done_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "plans" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "plans_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"enrolment_id" integer NOT NULL,
	"user_id" text NOT NULL,
	"recipient_id" integer,
	"created_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "recipients" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "recipients_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"message_id" integer NOT NULL,
	"enrolment_id" integer NOT NULL,
	"subject" text NOT NULL,
	"body" text NOT NULL,
	"email" text,
	"mail_state" text NOT NULL,
	"attempts" integer DEFAULT 0 NOT NULL,
	"mail_error" text,
	"sent_at" timestamp with time zone,
	"read_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "round_marks" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "round_marks_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"course_id" integer NOT NULL,
	"enrolment_id" integer NOT NULL,
	"user_id" text NOT NULL,
	"action" text NOT NULL,
	"on_day" date NOT NULL,
	"until_day" date,
	"reason" text,
	"covered" jsonb NOT NULL,
	"at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "round_positions" (
	"user_id" text NOT NULL,
	"course_id" integer NOT NULL,
	"enrolment_id" integer,
	"filter" text NOT NULL,
	CONSTRAINT "round_positions_user_id_course_id_pk" PRIMARY KEY("user_id","course_id")
);
--> statement-breakpoint
CREATE TABLE "tray_items" (
	"user_id" text NOT NULL,
	"course_id" integer NOT NULL,
	"enrolment_id" integer NOT NULL,
	"reason" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	CONSTRAINT "tray_items_user_id_course_id_enrolment_id_pk" PRIMARY KEY("user_id","course_id","enrolment_id")
);
--> statement-breakpoint
CREATE TABLE "account" (
	"id" text PRIMARY KEY NOT NULL,
	"account_id" text NOT NULL,
	"provider_id" text NOT NULL,
	"user_id" text NOT NULL,
	"password" text,
	"access_token" text,
	"refresh_token" text,
	"id_token" text,
	"access_token_expires_at" timestamp with time zone,
	"refresh_token_expires_at" timestamp with time zone,
	"scope" text,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "rate_limit" (
	"id" text PRIMARY KEY NOT NULL,
	"key" text NOT NULL,
	"count" integer NOT NULL,
	"last_request" bigint NOT NULL,
	CONSTRAINT "rate_limit_key_unique" UNIQUE("key")
);
--> statement-breakpoint
CREATE TABLE "session" (
	"id" text PRIMARY KEY NOT NULL,
	"token" text NOT NULL,
	"user_id" text NOT NULL,
	"expires_at" timestamp with time zone NOT NULL,
	"ip_address" text,
	"user_agent" text,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "session_token_unique" UNIQUE("token")
);
--> statement-breakpoint
CREATE TABLE "user" (
	"id" text PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"email" text NOT NULL,
	"email_verified" boolean DEFAULT false NOT NULL,
	"image" text,
	"role" text DEFAULT 'student' NOT NULL,
	"person_id" integer,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "user_email_unique" UNIQUE("email")
);
--> statement-breakpoint
CREATE TABLE "verification" (
	"id" text PRIMARY KEY NOT NULL,
	"identifier" text NOT NULL,
	"value" text NOT NULL,
	"expires_at" timestamp with time zone NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "activities" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "activities_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"course_id" integer NOT NULL,
	"external_id" text NOT NULL,
	"title" text NOT NULL,
	"kind" text NOT NULL,
	"category_id" integer,
	"points" double precision,
	"opens_at" timestamp with time zone,
	"due_at" timestamp with time zone,
	"minutes" integer,
	"position" integer NOT NULL,
	"extra_credit" boolean DEFAULT false NOT NULL
);
--> statement-breakpoint
CREATE TABLE "activity_outcomes" (
	"activity_id" integer NOT NULL,
	"outcome_id" integer NOT NULL,
	CONSTRAINT "activity_outcomes_activity_id_outcome_id_pk" PRIMARY KEY("activity_id","outcome_id")
);
--> statement-breakpoint
CREATE TABLE "categories" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "categories_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"course_id" integer NOT NULL,
	"name" text NOT NULL,
	"weight" double precision NOT NULL,
	"drop_lowest" integer DEFAULT 0 NOT NULL
);
--> statement-breakpoint
CREATE TABLE "courses" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "courses_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"code" text NOT NULL,
	"title" text NOT NULL,
	"term_name" text NOT NULL,
	"zone" text NOT NULL,
	"term_start" date NOT NULL,
	"term_weeks" integer NOT NULL,
	"breaks" jsonb NOT NULL,
	"policy" jsonb NOT NULL,
	"indicators" jsonb NOT NULL,
	"session_gap_minutes" integer NOT NULL,
	"data_until" timestamp with time zone,
	"evaluated_on" date,
	"evaluated_at" timestamp with time zone,
	CONSTRAINT "courses_code_unique" UNIQUE("code")
);
--> statement-breakpoint
CREATE TABLE "outcomes" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "outcomes_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"course_id" integer NOT NULL,
	"external_id" text NOT NULL,
	"title" text NOT NULL,
	"prerequisites" jsonb NOT NULL,
	"position" integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE "sections" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "sections_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"course_id" integer NOT NULL,
	"name" text NOT NULL,
	"meetings" jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "class_weeks" (
	"course_id" integer NOT NULL,
	"week" integer NOT NULL,
	"median_seconds" double precision NOT NULL,
	"standing_low" double precision,
	"standing_median" double precision,
	"standing_high" double precision,
	CONSTRAINT "class_weeks_course_id_week_pk" PRIMARY KEY("course_id","week")
);
--> statement-breakpoint
CREATE TABLE "day_totals" (
	"enrolment_id" integer NOT NULL,
	"day" date NOT NULL,
	"seconds" double precision NOT NULL,
	"in_class_seconds" double precision NOT NULL,
	"logins" integer NOT NULL,
	"events" integer NOT NULL,
	CONSTRAINT "day_totals_enrolment_id_day_pk" PRIMARY KEY("enrolment_id","day")
);
--> statement-breakpoint
CREATE TABLE "flags" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "flags_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"enrolment_id" integer NOT NULL,
	"kind" text NOT NULL,
	"level" text NOT NULL,
	"opened_on" date NOT NULL,
	"inside_since" date,
	"closed_on" date,
	"detail" jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "masteries" (
	"enrolment_id" integer NOT NULL,
	"outcome_id" integer NOT NULL,
	"mean" double precision NOT NULL,
	"low" double precision NOT NULL,
	"high" double precision NOT NULL,
	"effective" double precision NOT NULL,
	"level" text NOT NULL,
	CONSTRAINT "masteries_enrolment_id_outcome_id_pk" PRIMARY KEY("enrolment_id","outcome_id")
);
--> statement-breakpoint
CREATE TABLE "measures" (
	"enrolment_id" integer PRIMARY KEY NOT NULL,
	"silence" integer NOT NULL,
	"standing" double precision,
	"measures" jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "sessions" (
	"enrolment_id" integer NOT NULL,
	"started_at" timestamp with time zone NOT NULL,
	"ended_at" timestamp with time zone NOT NULL,
	"seconds" double precision NOT NULL,
	"events" integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE "student_weeks" (
	"enrolment_id" integer NOT NULL,
	"week" integer NOT NULL,
	"days" integer NOT NULL,
	"seconds" double precision NOT NULL,
	"in_class_seconds" double precision NOT NULL,
	"done" integer NOT NULL,
	"expected" integer NOT NULL,
	"standing" double precision,
	CONSTRAINT "student_weeks_enrolment_id_week_pk" PRIMARY KEY("enrolment_id","week")
);
--> statement-breakpoint
CREATE TABLE "enrolments" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "enrolments_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"course_id" integer NOT NULL,
	"person_id" integer NOT NULL,
	"section_id" integer,
	"status" text DEFAULT 'active' NOT NULL,
	"joined_on" date,
	"left_on" date
);
--> statement-breakpoint
CREATE TABLE "persons" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "persons_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"external_id" text NOT NULL,
	"given" text NOT NULL,
	"family" text NOT NULL,
	"email" text,
	CONSTRAINT "persons_external_id_unique" UNIQUE("external_id")
);
--> statement-breakpoint
CREATE TABLE "events" (
	"course_id" integer NOT NULL,
	"event_id" text NOT NULL,
	"enrolment_id" integer NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"kind" text NOT NULL,
	"activity_id" integer,
	"duration_s" double precision,
	CONSTRAINT "events_course_id_event_id_pk" PRIMARY KEY("course_id","event_id")
);
--> statement-breakpoint
CREATE TABLE "imports" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "imports_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"course_id" integer NOT NULL,
	"user_id" text,
	"at" timestamp with time zone NOT NULL,
	"files" jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "scores" (
	"enrolment_id" integer NOT NULL,
	"activity_id" integer NOT NULL,
	"submitted_at" timestamp with time zone,
	"graded_at" timestamp with time zone,
	"returned_at" timestamp with time zone,
	"points" double precision,
	"excused" boolean DEFAULT false NOT NULL,
	CONSTRAINT "scores_enrolment_id_activity_id_pk" PRIMARY KEY("enrolment_id","activity_id")
);
--> statement-breakpoint
CREATE TABLE "course_staff" (
	"course_id" integer NOT NULL,
	"user_id" text NOT NULL,
	CONSTRAINT "course_staff_course_id_user_id_pk" PRIMARY KEY("course_id","user_id")
);
--> statement-breakpoint
ALTER TABLE "messages" ADD CONSTRAINT "messages_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "messages" ADD CONSTRAINT "messages_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."user"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "plan_steps" ADD CONSTRAINT "plan_steps_plan_id_plans_id_fk" FOREIGN KEY ("plan_id") REFERENCES "public"."plans"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "plan_steps" ADD CONSTRAINT "plan_steps_activity_id_activities_id_fk" FOREIGN KEY ("activity_id") REFERENCES "public"."activities"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "plans" ADD CONSTRAINT "plans_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "plans" ADD CONSTRAINT "plans_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."user"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "plans" ADD CONSTRAINT "plans_recipient_id_recipients_id_fk" FOREIGN KEY ("recipient_id") REFERENCES "public"."recipients"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "recipients" ADD CONSTRAINT "recipients_message_id_messages_id_fk" FOREIGN KEY ("message_id") REFERENCES "public"."messages"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "recipients" ADD CONSTRAINT "recipients_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "round_marks" ADD CONSTRAINT "round_marks_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "round_marks" ADD CONSTRAINT "round_marks_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "round_marks" ADD CONSTRAINT "round_marks_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."user"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "round_positions" ADD CONSTRAINT "round_positions_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."user"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "round_positions" ADD CONSTRAINT "round_positions_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "round_positions" ADD CONSTRAINT "round_positions_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "tray_items" ADD CONSTRAINT "tray_items_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."user"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "tray_items" ADD CONSTRAINT "tray_items_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "tray_items" ADD CONSTRAINT "tray_items_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "account" ADD CONSTRAINT "account_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."user"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "session" ADD CONSTRAINT "session_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."user"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "user" ADD CONSTRAINT "user_person_id_persons_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."persons"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "activities" ADD CONSTRAINT "activities_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "activities" ADD CONSTRAINT "activities_category_id_categories_id_fk" FOREIGN KEY ("category_id") REFERENCES "public"."categories"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "activity_outcomes" ADD CONSTRAINT "activity_outcomes_activity_id_activities_id_fk" FOREIGN KEY ("activity_id") REFERENCES "public"."activities"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "activity_outcomes" ADD CONSTRAINT "activity_outcomes_outcome_id_outcomes_id_fk" FOREIGN KEY ("outcome_id") REFERENCES "public"."outcomes"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "categories" ADD CONSTRAINT "categories_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "outcomes" ADD CONSTRAINT "outcomes_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sections" ADD CONSTRAINT "sections_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "class_weeks" ADD CONSTRAINT "class_weeks_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "day_totals" ADD CONSTRAINT "day_totals_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "flags" ADD CONSTRAINT "flags_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "masteries" ADD CONSTRAINT "masteries_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "masteries" ADD CONSTRAINT "masteries_outcome_id_outcomes_id_fk" FOREIGN KEY ("outcome_id") REFERENCES "public"."outcomes"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "measures" ADD CONSTRAINT "measures_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sessions" ADD CONSTRAINT "sessions_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "student_weeks" ADD CONSTRAINT "student_weeks_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "enrolments" ADD CONSTRAINT "enrolments_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "enrolments" ADD CONSTRAINT "enrolments_person_id_persons_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."persons"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "enrolments" ADD CONSTRAINT "enrolments_section_id_sections_id_fk" FOREIGN KEY ("section_id") REFERENCES "public"."sections"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "events" ADD CONSTRAINT "events_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "events" ADD CONSTRAINT "events_activity_id_activities_id_fk" FOREIGN KEY ("activity_id") REFERENCES "public"."activities"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "imports" ADD CONSTRAINT "imports_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "imports" ADD CONSTRAINT "imports_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."user"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "scores" ADD CONSTRAINT "scores_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "scores" ADD CONSTRAINT "scores_activity_id_activities_id_fk" FOREIGN KEY ("activity_id") REFERENCES "public"."activities"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "course_staff" ADD CONSTRAINT "course_staff_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "course_staff" ADD CONSTRAINT "course_staff_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."user"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "messages_course" ON "messages" USING btree ("course_id");--> statement-breakpoint
CREATE INDEX "plan_steps_plan" ON "plan_steps" USING btree ("plan_id");--> statement-breakpoint
CREATE INDEX "plans_enrolment" ON "plans" USING btree ("enrolment_id");--> statement-breakpoint
CREATE UNIQUE INDEX "recipients_once" ON "recipients" USING btree ("message_id","enrolment_id");--> statement-breakpoint
CREATE INDEX "recipients_enrolment" ON "recipients" USING btree ("enrolment_id");--> statement-breakpoint
CREATE INDEX "recipients_state" ON "recipients" USING btree ("mail_state");--> statement-breakpoint
CREATE INDEX "round_marks_course" ON "round_marks" USING btree ("course_id","enrolment_id");--> statement-breakpoint
CREATE UNIQUE INDEX "activities_external" ON "activities" USING btree ("course_id","external_id");--> statement-breakpoint
CREATE INDEX "activity_outcomes_outcome" ON "activity_outcomes" USING btree ("outcome_id");--> statement-breakpoint
CREATE UNIQUE INDEX "categories_name" ON "categories" USING btree ("course_id","name");--> statement-breakpoint
CREATE UNIQUE INDEX "outcomes_external" ON "outcomes" USING btree ("course_id","external_id");--> statement-breakpoint
CREATE UNIQUE INDEX "sections_name" ON "sections" USING btree ("course_id","name");--> statement-breakpoint
CREATE INDEX "flags_enrolment" ON "flags" USING btree ("enrolment_id");--> statement-breakpoint
CREATE INDEX "sessions_enrolment" ON "sessions" USING btree ("enrolment_id","started_at");--> statement-breakpoint
CREATE UNIQUE INDEX "enrolments_place" ON "enrolments" USING btree ("course_id","person_id");--> statement-breakpoint
CREATE INDEX "enrolments_person" ON "enrolments" USING btree ("person_id");--> statement-breakpoint
CREATE INDEX "events_enrolment" ON "events" USING btree ("enrolment_id","at");