CREATE TABLE "attendance" (
	"enrolment_id" integer NOT NULL,
	"day" date NOT NULL,
	"meeting" text NOT NULL,
	"attendance" text NOT NULL,
	"minutes" double precision,
	CONSTRAINT "attendance_enrolment_id_day_meeting_pk" PRIMARY KEY("enrolment_id","day","meeting")
);
--> statement-breakpoint
CREATE TABLE "mappings" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "mappings_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"course_id" integer NOT NULL,
	"user_id" text,
	"name" text NOT NULL,
	"mapping" jsonb NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	CONSTRAINT "mappings_name" UNIQUE("course_id","name")
);
--> statement-breakpoint
CREATE TABLE "referrals" (
	"enrolment_id" integer NOT NULL,
	"referral_id" text NOT NULL,
	"day" date NOT NULL,
	"reason" text NOT NULL,
	"outcome" text,
	CONSTRAINT "referrals_enrolment_id_referral_id_pk" PRIMARY KEY("enrolment_id","referral_id")
);
--> statement-breakpoint
CREATE TABLE "requirements" (
	"enrolment_id" integer NOT NULL,
	"requirement" text NOT NULL,
	"kind" text NOT NULL,
	"needed" double precision NOT NULL,
	"earned" double precision NOT NULL,
	"day" date,
	CONSTRAINT "requirements_enrolment_id_requirement_pk" PRIMARY KEY("enrolment_id","requirement")
);
--> statement-breakpoint
CREATE TABLE "responses" (
	"enrolment_id" integer NOT NULL,
	"activity_id" integer,
	"item" text NOT NULL,
	"attempt" integer NOT NULL,
	"answer" text NOT NULL,
	"at" timestamp with time zone,
	"score" double precision,
	CONSTRAINT "responses_once" UNIQUE NULLS NOT DISTINCT("enrolment_id","activity_id","item","attempt")
);
--> statement-breakpoint
ALTER TABLE "attendance" ADD CONSTRAINT "attendance_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "mappings" ADD CONSTRAINT "mappings_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "mappings" ADD CONSTRAINT "mappings_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."user"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "referrals" ADD CONSTRAINT "referrals_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "requirements" ADD CONSTRAINT "requirements_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "responses" ADD CONSTRAINT "responses_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "responses" ADD CONSTRAINT "responses_activity_id_activities_id_fk" FOREIGN KEY ("activity_id") REFERENCES "public"."activities"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "responses_activity" ON "responses" USING btree ("activity_id");