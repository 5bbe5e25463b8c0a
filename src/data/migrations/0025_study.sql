CREATE TABLE "plan_feeds" (
	"person_id" integer PRIMARY KEY NOT NULL,
	"token_hash" text NOT NULL,
	"made_at" timestamp with time zone NOT NULL,
	CONSTRAINT "plan_feeds_token_hash_unique" UNIQUE("token_hash")
);
--> statement-breakpoint
CREATE TABLE "study_times" (
	"enrolment_id" integer PRIMARY KEY NOT NULL,
	"minutes_per_day" integer NOT NULL,
	"weekdays_off" jsonb NOT NULL
);
--> statement-breakpoint
ALTER TABLE "plans" ADD COLUMN "said" text;--> statement-breakpoint
ALTER TABLE "plan_feeds" ADD CONSTRAINT "plan_feeds_person_id_persons_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."persons"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "study_times" ADD CONSTRAINT "study_times_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;