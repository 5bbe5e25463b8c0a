CREATE TABLE "notes" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "notes_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"course_id" integer NOT NULL,
	"enrolment_id" integer NOT NULL,
	"user_id" text NOT NULL,
	"kind" text NOT NULL,
	"on_day" date NOT NULL,
	"text" text NOT NULL,
	"at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "view_settings" (
	"user_id" text NOT NULL,
	"course_id" integer NOT NULL,
	"view" text NOT NULL,
	"value" jsonb NOT NULL,
	CONSTRAINT "view_settings_user_id_course_id_view_pk" PRIMARY KEY("user_id","course_id","view")
);
--> statement-breakpoint
CREATE TABLE "activity_days" (
	"enrolment_id" integer NOT NULL,
	"activity_id" integer NOT NULL,
	"day" date NOT NULL,
	"seconds" double precision NOT NULL,
	"in_class_seconds" double precision NOT NULL,
	"views" integer NOT NULL,
	"contributions" integer NOT NULL,
	CONSTRAINT "activity_days_activity_id_day_enrolment_id_pk" PRIMARY KEY("activity_id","day","enrolment_id")
);
--> statement-breakpoint
CREATE TABLE "attempts" (
	"enrolment_id" integer NOT NULL,
	"activity_id" integer NOT NULL,
	"number" integer NOT NULL,
	"submitted_at" timestamp with time zone NOT NULL,
	"points" double precision,
	CONSTRAINT "attempts_enrolment_id_activity_id_number_pk" PRIMARY KEY("enrolment_id","activity_id","number")
);
--> statement-breakpoint
CREATE TABLE "score_changes" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "score_changes_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"course_id" integer NOT NULL,
	"batch" text NOT NULL,
	"enrolment_id" integer NOT NULL,
	"activity_id" integer NOT NULL,
	"user_id" text,
	"at" timestamp with time zone NOT NULL,
	"action" text NOT NULL,
	"before" jsonb NOT NULL,
	"after" jsonb NOT NULL,
	"undone_at" timestamp with time zone
);
--> statement-breakpoint
ALTER TABLE "activities" ADD COLUMN "attempts_allowed" integer;--> statement-breakpoint
ALTER TABLE "courses" ADD COLUMN "bands" jsonb;--> statement-breakpoint
ALTER TABLE "courses" ADD COLUMN "shows_standing" boolean DEFAULT true NOT NULL;--> statement-breakpoint
ALTER TABLE "day_totals" ADD COLUMN "views" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "day_totals" ADD COLUMN "contributions" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "day_totals" ADD COLUMN "seconds_at_10" double precision DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "day_totals" ADD COLUMN "seconds_at_30" double precision DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "day_totals" ADD COLUMN "seconds_at_60" double precision DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "scores" ADD COLUMN "own_due_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "scores" ADD COLUMN "extra_attempts" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "notes" ADD CONSTRAINT "notes_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "notes" ADD CONSTRAINT "notes_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "notes" ADD CONSTRAINT "notes_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."user"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "view_settings" ADD CONSTRAINT "view_settings_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."user"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "view_settings" ADD CONSTRAINT "view_settings_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "activity_days" ADD CONSTRAINT "activity_days_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "activity_days" ADD CONSTRAINT "activity_days_activity_id_activities_id_fk" FOREIGN KEY ("activity_id") REFERENCES "public"."activities"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "attempts" ADD CONSTRAINT "attempts_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "attempts" ADD CONSTRAINT "attempts_activity_id_activities_id_fk" FOREIGN KEY ("activity_id") REFERENCES "public"."activities"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "score_changes" ADD CONSTRAINT "score_changes_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "score_changes" ADD CONSTRAINT "score_changes_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "score_changes" ADD CONSTRAINT "score_changes_activity_id_activities_id_fk" FOREIGN KEY ("activity_id") REFERENCES "public"."activities"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "score_changes" ADD CONSTRAINT "score_changes_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."user"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "notes_enrolment" ON "notes" USING btree ("enrolment_id");--> statement-breakpoint
CREATE INDEX "activity_days_enrolment" ON "activity_days" USING btree ("enrolment_id","activity_id");--> statement-breakpoint
CREATE INDEX "score_changes_cell" ON "score_changes" USING btree ("enrolment_id","activity_id");--> statement-breakpoint
CREATE INDEX "score_changes_batch" ON "score_changes" USING btree ("batch");