CREATE TABLE "agreements" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "agreements_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"course_id" integer NOT NULL,
	"enrolment_id" integer NOT NULL,
	"user_id" text NOT NULL,
	"note_id" integer NOT NULL,
	"goal" text NOT NULL,
	"step" text NOT NULL,
	"on_day" date NOT NULL,
	"said" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"closed_at" timestamp with time zone,
	"closed_as" text
);
--> statement-breakpoint
CREATE TABLE "check_ins" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "check_ins_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"course_id" integer NOT NULL,
	"enrolment_id" integer NOT NULL,
	"how" text NOT NULL,
	"in_the_way" jsonb NOT NULL,
	"word" text NOT NULL,
	"at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "helpings" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "helpings_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"course_id" integer NOT NULL,
	"user_id" text NOT NULL,
	"helped_id" integer NOT NULL,
	"helper_id" integer NOT NULL,
	"topic" text NOT NULL,
	"until_day" date NOT NULL,
	"state" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"changed_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "review_times" (
	"user_id" text NOT NULL,
	"course_id" integer NOT NULL,
	"weekday" integer NOT NULL,
	"minute" integer NOT NULL,
	CONSTRAINT "review_times_user_id_course_id_pk" PRIMARY KEY("user_id","course_id")
);
--> statement-breakpoint
CREATE TABLE "letters" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "letters_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"key" text NOT NULL,
	"course_id" integer NOT NULL,
	"person_id" integer,
	"user_id" text,
	"talk_id" integer,
	"enrolment_id" integer,
	"to_name" text NOT NULL,
	"email" text NOT NULL,
	"reply_to" text,
	"subject" text NOT NULL,
	"body" text NOT NULL,
	"calendar" text,
	"calendar_method" text,
	"mail_state" text NOT NULL,
	"attempts" integer DEFAULT 0 NOT NULL,
	"mail_error" text,
	"goes_at" timestamp with time zone NOT NULL,
	"sent_at" timestamp with time zone,
	"created_at" timestamp with time zone NOT NULL,
	CONSTRAINT "letters_key_unique" UNIQUE("key")
);
--> statement-breakpoint
CREATE TABLE "talk_times" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "talk_times_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"course_id" integer NOT NULL,
	"user_id" text NOT NULL,
	"repeat" text NOT NULL,
	"first_on" date NOT NULL,
	"last_on" date NOT NULL,
	"from_minute" integer NOT NULL,
	"until_minute" integer NOT NULL,
	"minutes" integer NOT NULL,
	"place" text NOT NULL,
	"seats" integer NOT NULL,
	"except" jsonb NOT NULL,
	"open" boolean NOT NULL,
	"at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "talks" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "talks_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"course_id" integer NOT NULL,
	"enrolment_id" integer NOT NULL,
	"user_id" text NOT NULL,
	"times_id" integer,
	"uid" text NOT NULL,
	"sequence" integer DEFAULT 0 NOT NULL,
	"starts_at" timestamp with time zone NOT NULL,
	"ends_at" timestamp with time zone NOT NULL,
	"place" text NOT NULL,
	"seat" integer NOT NULL,
	"cancelled_at" timestamp with time zone,
	"cancelled_by" text,
	"why" text,
	"changed_at" timestamp with time zone NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	CONSTRAINT "talks_uid_unique" UNIQUE("uid")
);
--> statement-breakpoint
ALTER TABLE "acts" ADD COLUMN "followed_up_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "acts" ADD COLUMN "followed_up_by" text;--> statement-breakpoint
ALTER TABLE "messages" ADD COLUMN "offers_talk" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "messages" ADD COLUMN "says_why" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "notes" ADD COLUMN "talk_id" integer;--> statement-breakpoint
ALTER TABLE "notes" ADD COLUMN "result" text;--> statement-breakpoint
ALTER TABLE "notes" ADD COLUMN "key" text;--> statement-breakpoint
ALTER TABLE "agreements" ADD CONSTRAINT "agreements_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "agreements" ADD CONSTRAINT "agreements_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "agreements" ADD CONSTRAINT "agreements_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."user"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "agreements" ADD CONSTRAINT "agreements_note_id_notes_id_fk" FOREIGN KEY ("note_id") REFERENCES "public"."notes"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "check_ins" ADD CONSTRAINT "check_ins_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "check_ins" ADD CONSTRAINT "check_ins_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "helpings" ADD CONSTRAINT "helpings_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "helpings" ADD CONSTRAINT "helpings_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."user"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "helpings" ADD CONSTRAINT "helpings_helped_id_enrolments_id_fk" FOREIGN KEY ("helped_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "helpings" ADD CONSTRAINT "helpings_helper_id_enrolments_id_fk" FOREIGN KEY ("helper_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "review_times" ADD CONSTRAINT "review_times_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."user"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "review_times" ADD CONSTRAINT "review_times_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "letters" ADD CONSTRAINT "letters_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "letters" ADD CONSTRAINT "letters_person_id_persons_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."persons"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "letters" ADD CONSTRAINT "letters_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."user"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "letters" ADD CONSTRAINT "letters_talk_id_talks_id_fk" FOREIGN KEY ("talk_id") REFERENCES "public"."talks"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "letters" ADD CONSTRAINT "letters_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "talk_times" ADD CONSTRAINT "talk_times_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "talk_times" ADD CONSTRAINT "talk_times_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."user"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "talks" ADD CONSTRAINT "talks_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "talks" ADD CONSTRAINT "talks_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "talks" ADD CONSTRAINT "talks_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."user"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "talks" ADD CONSTRAINT "talks_times_id_talk_times_id_fk" FOREIGN KEY ("times_id") REFERENCES "public"."talk_times"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "agreements_enrolment" ON "agreements" USING btree ("enrolment_id");--> statement-breakpoint
CREATE INDEX "agreements_note" ON "agreements" USING btree ("note_id");--> statement-breakpoint
CREATE INDEX "check_ins_enrolment" ON "check_ins" USING btree ("enrolment_id");--> statement-breakpoint
CREATE INDEX "helpings_helped" ON "helpings" USING btree ("helped_id");--> statement-breakpoint
CREATE INDEX "helpings_helper" ON "helpings" USING btree ("helper_id");--> statement-breakpoint
CREATE INDEX "letters_talk" ON "letters" USING btree ("talk_id");--> statement-breakpoint
CREATE INDEX "letters_state" ON "letters" USING btree ("mail_state");--> statement-breakpoint
CREATE INDEX "talk_times_user" ON "talk_times" USING btree ("user_id");--> statement-breakpoint
CREATE INDEX "talk_times_course" ON "talk_times" USING btree ("course_id");--> statement-breakpoint
CREATE INDEX "talks_enrolment" ON "talks" USING btree ("enrolment_id");--> statement-breakpoint
CREATE INDEX "talks_course" ON "talks" USING btree ("course_id","starts_at");--> statement-breakpoint
CREATE UNIQUE INDEX "talks_seat" ON "talks" USING btree ("user_id","starts_at","seat") WHERE "talks"."cancelled_at" is null;--> statement-breakpoint
ALTER TABLE "acts" ADD CONSTRAINT "acts_followed_up_by_user_id_fk" FOREIGN KEY ("followed_up_by") REFERENCES "public"."user"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "notes" ADD CONSTRAINT "notes_talk_id_talks_id_fk" FOREIGN KEY ("talk_id") REFERENCES "public"."talks"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "notes_talk" ON "notes" USING btree ("talk_id");--> statement-breakpoint
ALTER TABLE "notes" ADD CONSTRAINT "notes_key_unique" UNIQUE("key");