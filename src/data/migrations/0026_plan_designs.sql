CREATE TABLE "accommodations" (
	"enrolment_id" integer PRIMARY KEY NOT NULL,
	"more_time_percent" integer NOT NULL,
	"read_aloud" boolean NOT NULL
);
--> statement-breakpoint
CREATE TABLE "assigned_activities" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "assigned_activities_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"enrolment_id" integer NOT NULL,
	"activity_id" integer NOT NULL,
	"opens_at" timestamp with time zone,
	"due_at" timestamp with time zone,
	"closes_at" timestamp with time zone,
	"at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "given_batches" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "given_batches_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"course_id" integer NOT NULL,
	"user_id" text,
	"at" timestamp with time zone NOT NULL,
	"words" text NOT NULL,
	"target" text,
	"opens_at" timestamp with time zone,
	"due_at" timestamp with time zone,
	"closes_at" timestamp with time zone,
	"activity_ids" jsonb NOT NULL,
	"changes" jsonb NOT NULL,
	"narrowed" jsonb NOT NULL,
	"grade_batch" text,
	"undone_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "plan_courses" (
	"course_id" integer PRIMARY KEY NOT NULL,
	"rev" integer DEFAULT 0 NOT NULL,
	"on_day" date,
	"designs" integer DEFAULT 0 NOT NULL,
	"designs_seen" integer DEFAULT 0 NOT NULL
);
--> statement-breakpoint
CREATE TABLE "plan_designs" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "plan_designs_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"course_id" integer NOT NULL,
	"user_id" text NOT NULL,
	"title" text NOT NULL,
	"design" jsonb NOT NULL,
	"state" text NOT NULL,
	"released_at" timestamp with time zone,
	"changed_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "plan_steps" ADD COLUMN "was_on_day" date;--> statement-breakpoint
ALTER TABLE "plan_steps" ADD COLUMN "part" text;--> statement-breakpoint
ALTER TABLE "plan_steps" ADD COLUMN "design_step" text;--> statement-breakpoint
ALTER TABLE "plan_steps" ADD COLUMN "step_set" text DEFAULT 'a' NOT NULL;--> statement-breakpoint
ALTER TABLE "plan_steps" ADD COLUMN "pinned" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "plan_steps" ADD COLUMN "lesson_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "plan_steps" ADD COLUMN "place" text;--> statement-breakpoint
ALTER TABLE "plan_steps" ADD COLUMN "outcome_id" integer;--> statement-breakpoint
ALTER TABLE "plan_steps" ADD COLUMN "further" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "plans" ADD COLUMN "said_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "plans" ADD COLUMN "design_id" integer;--> statement-breakpoint
ALTER TABLE "plans" ADD COLUMN "title" text;--> statement-breakpoint
ALTER TABLE "plans" ADD COLUMN "parts" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "activities" ADD COLUMN "for_some" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "courses" ADD COLUMN "attempt_policy" text;--> statement-breakpoint
ALTER TABLE "accommodations" ADD CONSTRAINT "accommodations_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "assigned_activities" ADD CONSTRAINT "assigned_activities_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "assigned_activities" ADD CONSTRAINT "assigned_activities_activity_id_activities_id_fk" FOREIGN KEY ("activity_id") REFERENCES "public"."activities"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "given_batches" ADD CONSTRAINT "given_batches_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "given_batches" ADD CONSTRAINT "given_batches_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."user"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "plan_courses" ADD CONSTRAINT "plan_courses_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "plan_designs" ADD CONSTRAINT "plan_designs_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "plan_designs" ADD CONSTRAINT "plan_designs_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."user"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "assigned_once" ON "assigned_activities" USING btree ("enrolment_id","activity_id");--> statement-breakpoint
CREATE INDEX "assigned_activity" ON "assigned_activities" USING btree ("activity_id");--> statement-breakpoint
CREATE INDEX "given_batches_course" ON "given_batches" USING btree ("course_id");--> statement-breakpoint
CREATE INDEX "plan_designs_course" ON "plan_designs" USING btree ("course_id");--> statement-breakpoint
ALTER TABLE "plan_steps" ADD CONSTRAINT "plan_steps_outcome_id_outcomes_id_fk" FOREIGN KEY ("outcome_id") REFERENCES "public"."outcomes"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "plans" ADD CONSTRAINT "plans_design_id_plan_designs_id_fk" FOREIGN KEY ("design_id") REFERENCES "public"."plan_designs"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "plans_of_design" ON "plans" USING btree ("design_id","enrolment_id");