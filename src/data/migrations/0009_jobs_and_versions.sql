CREATE SEQUENCE "public"."derived_versions" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1;--> statement-breakpoint
CREATE TABLE "jobs" (
	"id" text PRIMARY KEY NOT NULL,
	"kind" text NOT NULL,
	"payload" jsonb NOT NULL,
	"key" text,
	"line" text,
	"user_id" text,
	"state" text DEFAULT 'queued' NOT NULL,
	"run_at" timestamp with time zone DEFAULT clock_timestamp() NOT NULL,
	"attempts" integer DEFAULT 0 NOT NULL,
	"holder" text,
	"held_until" timestamp with time zone,
	"step" text DEFAULT '' NOT NULL,
	"done" integer DEFAULT 0 NOT NULL,
	"of" integer DEFAULT 0 NOT NULL,
	"cancelled" boolean DEFAULT false NOT NULL,
	"result" jsonb,
	"message" text,
	"created_at" timestamp with time zone DEFAULT clock_timestamp() NOT NULL,
	"ended_at" timestamp with time zone
);--> statement-breakpoint
CREATE TABLE "upload_pieces" (
	"upload_id" text NOT NULL,
	"file" integer NOT NULL,
	"piece" integer NOT NULL,
	"content" "bytea" NOT NULL,
	CONSTRAINT "upload_pieces_upload_id_file_piece_pk" PRIMARY KEY("upload_id","file","piece")
);--> statement-breakpoint
CREATE TABLE "uploads" (
	"id" text PRIMARY KEY NOT NULL,
	"course_id" integer NOT NULL,
	"user_id" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"names" jsonb NOT NULL,
	"told" jsonb NOT NULL
);--> statement-breakpoint
DROP INDEX "sessions_enrolment";--> statement-breakpoint
ALTER TABLE "activity_days" DROP CONSTRAINT "activity_days_activity_id_day_enrolment_id_pk";--> statement-breakpoint
ALTER TABLE "activity_totals" DROP CONSTRAINT "activity_totals_enrolment_id_activity_id_pk";--> statement-breakpoint
ALTER TABLE "day_totals" DROP CONSTRAINT "day_totals_enrolment_id_day_pk";--> statement-breakpoint
ALTER TABLE "courses" ADD COLUMN "for_import" integer;--> statement-breakpoint
ALTER TABLE "activity_days" ADD COLUMN "version" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "activity_totals" ADD COLUMN "version" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "day_totals" ADD COLUMN "version" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "flags" ADD COLUMN "inside_before" date;--> statement-breakpoint
ALTER TABLE "sessions" ADD COLUMN "version" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "enrolments" ADD COLUMN "version" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "imports" ADD COLUMN "arriving_until" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "imports" ADD COLUMN "version" integer;--> statement-breakpoint
ALTER TABLE "activity_days" ADD CONSTRAINT "activity_days_activity_id_day_enrolment_id_version_pk" PRIMARY KEY("activity_id","day","enrolment_id","version");--> statement-breakpoint
ALTER TABLE "activity_totals" ADD CONSTRAINT "activity_totals_enrolment_id_version_activity_id_pk" PRIMARY KEY("enrolment_id","version","activity_id");--> statement-breakpoint
ALTER TABLE "day_totals" ADD CONSTRAINT "day_totals_enrolment_id_version_day_pk" PRIMARY KEY("enrolment_id","version","day");--> statement-breakpoint
ALTER TABLE "jobs" ADD CONSTRAINT "jobs_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."user"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "upload_pieces" ADD CONSTRAINT "upload_pieces_upload_id_uploads_id_fk" FOREIGN KEY ("upload_id") REFERENCES "public"."uploads"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "uploads" ADD CONSTRAINT "uploads_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "uploads" ADD CONSTRAINT "uploads_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."user"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "jobs_key" ON "jobs" USING btree ("key") WHERE "jobs"."state" = 'queued';--> statement-breakpoint
CREATE UNIQUE INDEX "jobs_line" ON "jobs" USING btree ("line") WHERE "jobs"."state" = 'running';--> statement-breakpoint
CREATE INDEX "jobs_open" ON "jobs" USING btree ("run_at") WHERE "jobs"."state" in ('queued', 'running');--> statement-breakpoint
CREATE INDEX "jobs_ended" ON "jobs" USING btree ("ended_at");--> statement-breakpoint
CREATE INDEX "plans_recipient" ON "plans" USING btree ("recipient_id");--> statement-breakpoint
CREATE INDEX "statements_import" ON "statements" USING btree ("course_id","import_id");--> statement-breakpoint
CREATE INDEX "statements_ahead" ON "statements" USING btree ("course_id") WHERE "statements"."at" - "statements"."stored" > interval '24 hours';--> statement-breakpoint
CREATE INDEX "waiting_import" ON "waiting" USING btree ("import_id");--> statement-breakpoint
CREATE INDEX "attempts_activity" ON "attempts" USING btree ("activity_id");--> statement-breakpoint
CREATE INDEX "events_activity" ON "events" USING btree ("activity_id");--> statement-breakpoint
CREATE INDEX "events_import" ON "events" USING btree ("course_id","import_id");--> statement-breakpoint
CREATE INDEX "imports_course" ON "imports" USING btree ("course_id");--> statement-breakpoint
CREATE INDEX "imports_arriving" ON "imports" USING btree ("id") WHERE "imports"."arriving_until" is not null;--> statement-breakpoint
CREATE INDEX "scores_activity" ON "scores" USING btree ("activity_id");--> statement-breakpoint
CREATE INDEX "sessions_enrolment" ON "sessions" USING btree ("enrolment_id","version","started_at");--> statement-breakpoint
CREATE VIEW "public"."activity_days_now" AS (select "enrolment_id", "activity_id", "day", "seconds", "in_class_seconds", "views", "contributions" from "activity_days" where ("activity_days"."enrolment_id", "activity_days"."version") in (select "enrolments"."id", "enrolments"."version" from "enrolments"));--> statement-breakpoint
CREATE VIEW "public"."activity_totals_now" AS (select "enrolment_id", "activity_id", "first_day", "last_day", "first_contribution", "seconds" from "activity_totals" where ("activity_totals"."enrolment_id", "activity_totals"."version") in (select "enrolments"."id", "enrolments"."version" from "enrolments"));--> statement-breakpoint
CREATE VIEW "public"."day_totals_now" AS (select "enrolment_id", "day", "seconds", "in_class_seconds", "logins", "events", "views", "contributions", "seconds_at_10", "seconds_at_30", "seconds_at_60" from "day_totals" where ("day_totals"."enrolment_id", "day_totals"."version") in (select "enrolments"."id", "enrolments"."version" from "enrolments"));--> statement-breakpoint
CREATE VIEW "public"."sessions_now" AS (select "enrolment_id", "started_at", "ended_at", "seconds", "events" from "sessions" where ("sessions"."enrolment_id", "sessions"."version") in (select "enrolments"."id", "enrolments"."version" from "enrolments"));--> statement-breakpoint
CREATE VIEW "public"."statements_now" AS (select "course_id", "id", "place", "stored", "at", "actor", "verb", "activity", "registration", "voids", "voided", "import_id", "statement" from "statements" where ("statements"."import_id" is null or "statements"."import_id" not in (select "imports"."id" from "imports" where "imports"."arriving_until" is not null)));--> statement-breakpoint
CREATE VIEW "public"."events_now" AS (select "course_id", "event_id", "enrolment_id", "at", "kind", "activity_id", "duration_s", "import_id", "of_statement" from "events" where ("events"."import_id" is null or "events"."import_id" not in (select "imports"."id" from "imports" where "imports"."arriving_until" is not null)));--> statement-breakpoint
UPDATE "flags" SET "inside_before" = "inside_since" WHERE "closed_on" IS NULL;
