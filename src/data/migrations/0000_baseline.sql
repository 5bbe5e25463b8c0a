CREATE SEQUENCE "public"."derived_versions" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1;--> statement-breakpoint
CREATE TABLE "acts" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "acts_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"course_id" integer NOT NULL,
	"enrolment_id" integer NOT NULL,
	"user_id" text NOT NULL,
	"kind" text NOT NULL,
	"on_day" date NOT NULL,
	"follow_up_on" date,
	"followed_up_at" timestamp with time zone,
	"followed_up_by" text,
	"reason" text,
	"answers" jsonb NOT NULL,
	"recipient_id" integer,
	"note_id" integer,
	"at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
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
CREATE TABLE "messages" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "messages_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"course_id" integer NOT NULL,
	"user_id" text NOT NULL,
	"key" text NOT NULL,
	"subject" text NOT NULL,
	"body" text NOT NULL,
	"doc" jsonb,
	"reason" text NOT NULL,
	"about" text DEFAULT 'other' NOT NULL,
	"activity_id" integer,
	"item" text,
	"created_at" timestamp with time zone NOT NULL,
	"goes_at" timestamp with time zone,
	"gone_at" timestamp with time zone,
	"offers_talk" boolean DEFAULT false NOT NULL,
	"says_why" boolean DEFAULT false NOT NULL,
	CONSTRAINT "messages_key_unique" UNIQUE("key")
);
--> statement-breakpoint
CREATE TABLE "notes" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "notes_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"course_id" integer NOT NULL,
	"enrolment_id" integer NOT NULL,
	"user_id" text NOT NULL,
	"kind" text NOT NULL,
	"on_day" date NOT NULL,
	"text" text NOT NULL,
	"talk_id" integer,
	"result" text,
	"key" text,
	"at" timestamp with time zone NOT NULL,
	CONSTRAINT "notes_key_unique" UNIQUE("key")
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
	"done_at" timestamp with time zone,
	"was_on_day" date,
	"part" text,
	"design_step" text,
	"step_set" text DEFAULT 'a' NOT NULL,
	"pinned" boolean DEFAULT false NOT NULL,
	"lesson_at" timestamp with time zone,
	"place" text,
	"outcome_id" integer,
	"further" boolean DEFAULT false NOT NULL
);
--> statement-breakpoint
CREATE TABLE "plans" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "plans_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"enrolment_id" integer NOT NULL,
	"user_id" text NOT NULL,
	"recipient_id" integer,
	"created_at" timestamp with time zone NOT NULL,
	"said" text,
	"said_at" timestamp with time zone,
	"design_id" integer,
	"title" text,
	"parts" jsonb DEFAULT '[]'::jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "recipients" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "recipients_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"message_id" integer NOT NULL,
	"enrolment_id" integer NOT NULL,
	"subject" text NOT NULL,
	"body" text NOT NULL,
	"doc" jsonb,
	"email" text,
	"mail_state" text NOT NULL,
	"attempts" integer DEFAULT 0 NOT NULL,
	"mail_error" text,
	"sent_at" timestamp with time zone,
	"read_at" timestamp with time zone
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
CREATE TABLE "templates" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "templates_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"course_id" integer NOT NULL,
	"user_id" text NOT NULL,
	"shared" boolean NOT NULL,
	"name" text NOT NULL,
	"about" text NOT NULL,
	"subject" text NOT NULL,
	"doc" jsonb NOT NULL,
	"at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "tray_items" (
	"user_id" text NOT NULL,
	"course_id" integer NOT NULL,
	"enrolment_id" integer NOT NULL,
	"reason" text NOT NULL,
	"about" text DEFAULT 'other' NOT NULL,
	"activity_id" integer,
	"item" text,
	"source" text DEFAULT '' NOT NULL,
	"at" timestamp with time zone NOT NULL,
	CONSTRAINT "tray_items_user_id_course_id_enrolment_id_pk" PRIMARY KEY("user_id","course_id","enrolment_id")
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
CREATE TABLE "audiences" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "audiences_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"course_id" integer NOT NULL,
	"user_id" text,
	"name" text NOT NULL,
	"condition" jsonb NOT NULL,
	"added" jsonb NOT NULL,
	"removed" jsonb NOT NULL,
	"at" timestamp with time zone NOT NULL
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
	"seconds" double precision,
	"hints" integer,
	CONSTRAINT "responses_once" UNIQUE NULLS NOT DISTINCT("enrolment_id","activity_id","item","attempt")
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
	"closes_at" timestamp with time zone,
	"minutes" integer,
	"attempts_allowed" integer,
	"position" integer NOT NULL,
	"extra_credit" boolean DEFAULT false NOT NULL,
	"for_some" boolean DEFAULT false NOT NULL,
	"key_shown" text DEFAULT 'closed' NOT NULL
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
	"unit_id" integer,
	"title" text NOT NULL,
	"term_name" text NOT NULL,
	"zone" text NOT NULL,
	"term_start" date NOT NULL,
	"term_weeks" integer NOT NULL,
	"breaks" jsonb NOT NULL,
	"policy" jsonb NOT NULL,
	"indicators" jsonb NOT NULL,
	"session_gap_minutes" integer NOT NULL,
	"bands" jsonb,
	"attempt_policy" text,
	"shows_standing" boolean DEFAULT true NOT NULL,
	"data_until" timestamp with time zone,
	"evaluated_on" date,
	"evaluated_at" timestamp with time zone,
	"evaluations" integer DEFAULT 0 NOT NULL,
	"join_code" text,
	"archived_at" timestamp with time zone,
	"for_import" integer,
	"rev" integer DEFAULT 0 NOT NULL,
	"setup_rev" integer DEFAULT 0 NOT NULL,
	CONSTRAINT "courses_code_unique" UNIQUE("code"),
	CONSTRAINT "courses_join_code_unique" UNIQUE("join_code")
);
--> statement-breakpoint
CREATE TABLE "outcomes" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "outcomes_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"course_id" integer NOT NULL,
	"external_id" text NOT NULL,
	"title" text NOT NULL,
	"prerequisites" jsonb NOT NULL,
	"position" integer NOT NULL,
	"parent_id" integer
);
--> statement-breakpoint
CREATE TABLE "sections" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "sections_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"course_id" integer NOT NULL,
	"name" text NOT NULL,
	"meetings" jsonb NOT NULL,
	"exceptions" jsonb DEFAULT '[]'::jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "source_ids" (
	"course_id" integer NOT NULL,
	"kind" text NOT NULL,
	"source_id" text NOT NULL,
	"section_id" integer,
	"category_id" integer,
	CONSTRAINT "source_ids_course_id_kind_source_id_pk" PRIMARY KEY("course_id","kind","source_id")
);
--> statement-breakpoint
CREATE TABLE "activity_days" (
	"enrolment_id" integer NOT NULL,
	"version" integer DEFAULT 0 NOT NULL,
	"activity_id" integer NOT NULL,
	"day" date NOT NULL,
	"seconds" double precision NOT NULL,
	"in_class_seconds" double precision NOT NULL,
	"views" integer NOT NULL,
	"contributions" integer NOT NULL,
	CONSTRAINT "activity_days_activity_id_day_enrolment_id_version_pk" PRIMARY KEY("activity_id","day","enrolment_id","version")
);
--> statement-breakpoint
CREATE TABLE "activity_totals" (
	"enrolment_id" integer NOT NULL,
	"version" integer DEFAULT 0 NOT NULL,
	"activity_id" integer NOT NULL,
	"first_day" date NOT NULL,
	"last_day" date NOT NULL,
	"first_contribution" date,
	"seconds" double precision NOT NULL,
	CONSTRAINT "activity_totals_enrolment_id_version_activity_id_pk" PRIMARY KEY("enrolment_id","version","activity_id")
);
--> statement-breakpoint
CREATE TABLE "behind" (
	"enrolment_id" integer PRIMARY KEY NOT NULL,
	"since" timestamp with time zone NOT NULL,
	"removed" boolean DEFAULT false NOT NULL
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
CREATE TABLE "course_dwells" (
	"course_id" integer NOT NULL,
	"kind" integer NOT NULL,
	"counts" jsonb NOT NULL,
	CONSTRAINT "course_dwells_course_id_kind_pk" PRIMARY KEY("course_id","kind")
);
--> statement-breakpoint
CREATE TABLE "day_totals" (
	"enrolment_id" integer NOT NULL,
	"version" integer DEFAULT 0 NOT NULL,
	"day" date NOT NULL,
	"seconds" double precision NOT NULL,
	"in_class_seconds" double precision NOT NULL,
	"logins" integer NOT NULL,
	"events" integer NOT NULL,
	"views" integer DEFAULT 0 NOT NULL,
	"contributions" integer DEFAULT 0 NOT NULL,
	"seconds_at_10" double precision DEFAULT 0 NOT NULL,
	"seconds_at_30" double precision DEFAULT 0 NOT NULL,
	"seconds_at_60" double precision DEFAULT 0 NOT NULL,
	CONSTRAINT "day_totals_enrolment_id_version_day_pk" PRIMARY KEY("enrolment_id","version","day")
);
--> statement-breakpoint
CREATE TABLE "flags" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "flags_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"enrolment_id" integer NOT NULL,
	"kind" text NOT NULL,
	"level" text NOT NULL,
	"opened_on" date NOT NULL,
	"inside_since" date,
	"inside_before" date,
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
	"asked_at" timestamp with time zone,
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
CREATE TABLE "outcome_priors" (
	"outcome_id" integer PRIMARY KEY NOT NULL,
	"a" double precision NOT NULL,
	"b" double precision NOT NULL
);
--> statement-breakpoint
CREATE TABLE "sessions" (
	"enrolment_id" integer NOT NULL,
	"version" integer DEFAULT 0 NOT NULL,
	"started_at" timestamp with time zone NOT NULL,
	"ended_at" timestamp with time zone NOT NULL,
	"seconds" double precision NOT NULL,
	"events" integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE "settled" (
	"enrolment_id" integer PRIMARY KEY NOT NULL,
	"until" timestamp with time zone NOT NULL,
	"counts" jsonb NOT NULL,
	"ends" jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "student_dwells" (
	"enrolment_id" integer PRIMARY KEY NOT NULL,
	"counts" jsonb NOT NULL,
	"relies" jsonb NOT NULL,
	"typical" jsonb NOT NULL
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
CREATE TABLE "feed_files" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "feed_files_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"feed_id" integer NOT NULL,
	"upload_id" text,
	"name" text NOT NULL,
	"hash" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"state" text NOT NULL,
	"counts" jsonb,
	"reasons" jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "feeds" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "feeds_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"course_id" integer NOT NULL,
	"user_id" text NOT NULL,
	"name" text NOT NULL,
	"kind" text NOT NULL,
	"place" text NOT NULL,
	"days" text NOT NULL,
	"minute" integer NOT NULL,
	"state" text NOT NULL,
	"why" text,
	"missed_at" timestamp with time zone,
	"came_at" timestamp with time zone,
	"shape" jsonb,
	"mapping" jsonb,
	"marks" jsonb NOT NULL,
	"created_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "units" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "units_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"name" text NOT NULL,
	"parent_id" integer
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
);
--> statement-breakpoint
CREATE TABLE "aliases" (
	"course_id" integer NOT NULL,
	"value" text NOT NULL,
	"person_id" integer NOT NULL,
	CONSTRAINT "aliases_course_id_value_pk" PRIMARY KEY("course_id","value")
);
--> statement-breakpoint
CREATE TABLE "attachments" (
	"course_id" integer NOT NULL,
	"sha2" text NOT NULL,
	"content" "bytea" NOT NULL,
	CONSTRAINT "attachments_course_id_sha2_pk" PRIMARY KEY("course_id","sha2")
);
--> statement-breakpoint
CREATE TABLE "credentials" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "credentials_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"course_id" integer NOT NULL,
	"label" text NOT NULL,
	"key" text NOT NULL,
	"secret_hash" text NOT NULL,
	"user_id" text,
	"created_at" timestamp with time zone NOT NULL,
	"revoked_at" timestamp with time zone,
	CONSTRAINT "credentials_key_unique" UNIQUE("key")
);
--> statement-breakpoint
CREATE TABLE "documents" (
	"course_id" integer NOT NULL,
	"kind" text NOT NULL,
	"activity" text DEFAULT '' NOT NULL,
	"agent" text DEFAULT '' NOT NULL,
	"registration" text DEFAULT '' NOT NULL,
	"id" text NOT NULL,
	"key" text NOT NULL,
	"content_type" text NOT NULL,
	"content" "bytea" NOT NULL,
	"updated" timestamp with time zone NOT NULL,
	CONSTRAINT "documents_course_id_key_pk" PRIMARY KEY("course_id","key")
);
--> statement-breakpoint
CREATE TABLE "erasures" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "erasures_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"course_id" integer NOT NULL,
	"user_id" text,
	"at" timestamp with time zone NOT NULL,
	"counts" jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "group_members" (
	"group_id" integer NOT NULL,
	"enrolment_id" integer NOT NULL,
	CONSTRAINT "group_members_group_id_enrolment_id_pk" PRIMARY KEY("group_id","enrolment_id")
);
--> statement-breakpoint
CREATE TABLE "group_staff" (
	"group_id" integer NOT NULL,
	"user_id" text NOT NULL,
	CONSTRAINT "group_staff_group_id_user_id_pk" PRIMARY KEY("group_id","user_id")
);
--> statement-breakpoint
CREATE TABLE "groups" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "groups_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"name" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "statement_attachments" (
	"course_id" integer NOT NULL,
	"statement_id" text NOT NULL,
	"sha2" text NOT NULL,
	CONSTRAINT "statement_attachments_course_id_statement_id_sha2_pk" PRIMARY KEY("course_id","statement_id","sha2")
);
--> statement-breakpoint
CREATE TABLE "statements" (
	"course_id" integer NOT NULL,
	"id" text NOT NULL,
	"place" integer GENERATED ALWAYS AS IDENTITY (sequence name "statements_place_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"stored" timestamp with time zone NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"actor" text NOT NULL,
	"verb" text NOT NULL,
	"activity" text,
	"registration" text,
	"voids" text,
	"voided" boolean DEFAULT false NOT NULL,
	"import_id" integer,
	"statement" jsonb NOT NULL,
	CONSTRAINT "statements_course_id_id_pk" PRIMARY KEY("course_id","id")
);
--> statement-breakpoint
CREATE TABLE "waiting" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "waiting_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"course_id" integer NOT NULL,
	"import_id" integer,
	"kind" text NOT NULL,
	"person" text NOT NULL,
	"name" text,
	"key" text NOT NULL,
	"record" jsonb NOT NULL,
	"at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "enrolments" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "enrolments_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"course_id" integer NOT NULL,
	"person_id" integer NOT NULL,
	"section_id" integer,
	"status" text DEFAULT 'active' NOT NULL,
	"joined_on" date,
	"left_on" date,
	"contact_hidden" boolean DEFAULT false NOT NULL,
	"rev" integer DEFAULT 0 NOT NULL,
	"version" integer DEFAULT 0 NOT NULL
);
--> statement-breakpoint
CREATE TABLE "persons" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "persons_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"external_id" text NOT NULL,
	"given" text NOT NULL,
	"family" text NOT NULL,
	"email" text,
	"mail_copies" boolean DEFAULT true NOT NULL,
	"mail_fault" text,
	"mail_fault_at" timestamp with time zone,
	CONSTRAINT "persons_external_id_unique" UNIQUE("external_id")
);
--> statement-breakpoint
CREATE TABLE "proposals" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "proposals_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"person_id" integer,
	"unit_id" integer,
	"user_id" text,
	"at" timestamp with time zone NOT NULL,
	"before" jsonb NOT NULL,
	"after" jsonb NOT NULL,
	"settled_at" timestamp with time zone,
	"accepted" boolean
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
CREATE TABLE "events" (
	"course_id" integer NOT NULL,
	"event_id" text NOT NULL,
	"enrolment_id" integer NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"kind" text NOT NULL,
	"activity_id" integer,
	"duration_s" double precision,
	"import_id" integer,
	"of_statement" text,
	CONSTRAINT "events_course_id_event_id_pk" PRIMARY KEY("course_id","event_id")
);
--> statement-breakpoint
CREATE TABLE "import_changes" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "import_changes_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"import_id" integer NOT NULL,
	"kind" text NOT NULL,
	"key" text NOT NULL,
	"before" jsonb,
	"after" jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "imports" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "imports_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"course_id" integer NOT NULL,
	"user_id" text,
	"at" timestamp with time zone NOT NULL,
	"files" jsonb NOT NULL,
	"job_id" text,
	"undone_at" timestamp with time zone,
	"undone_by" text,
	"arriving_until" timestamp with time zone,
	"version" integer
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
CREATE TABLE "scores" (
	"enrolment_id" integer NOT NULL,
	"activity_id" integer NOT NULL,
	"submitted_at" timestamp with time zone,
	"graded_at" timestamp with time zone,
	"returned_at" timestamp with time zone,
	"points" double precision,
	"excused" boolean DEFAULT false NOT NULL,
	"own_due_at" timestamp with time zone,
	"extra_attempts" integer DEFAULT 0 NOT NULL,
	"from_statements" boolean DEFAULT false NOT NULL,
	CONSTRAINT "scores_enrolment_id_activity_id_pk" PRIMARY KEY("enrolment_id","activity_id")
);
--> statement-breakpoint
CREATE TABLE "replies" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "replies_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"course_id" integer NOT NULL,
	"enrolment_id" integer NOT NULL,
	"recipient_id" integer,
	"body" text NOT NULL,
	"via" text NOT NULL,
	"other_address" text,
	"unverified" boolean DEFAULT false NOT NULL,
	"upload_id" text,
	"automatic" boolean DEFAULT false NOT NULL,
	"dropped" integer DEFAULT 0 NOT NULL,
	"key" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"read_at" timestamp with time zone,
	"read_by" text
);
--> statement-breakpoint
CREATE TABLE "grades_seen" (
	"enrolment_id" integer NOT NULL,
	"activity_id" integer NOT NULL,
	CONSTRAINT "grades_seen_enrolment_id_activity_id_pk" PRIMARY KEY("enrolment_id","activity_id")
);
--> statement-breakpoint
CREATE TABLE "occasions" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "occasions_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"rule_id" integer NOT NULL,
	"course_id" integer NOT NULL,
	"enrolment_id" integer NOT NULL,
	"key" text NOT NULL,
	"activity_id" integer,
	"at" timestamp with time zone NOT NULL,
	"facts" jsonb NOT NULL,
	"state" text NOT NULL,
	"why" text,
	"goes_at" timestamp with time zone,
	"recipient_id" integer,
	"settled_at" timestamp with time zone,
	"settled_by" text
);
--> statement-breakpoint
CREATE TABLE "rule_courses" (
	"course_id" integer PRIMARY KEY NOT NULL,
	"looked_at" timestamp with time zone,
	"rev" integer DEFAULT 0 NOT NULL,
	"guards" jsonb
);
--> statement-breakpoint
CREATE TABLE "rule_holds" (
	"rule_id" integer NOT NULL,
	"enrolment_id" integer NOT NULL,
	"since_day" date NOT NULL,
	"spent" boolean NOT NULL,
	CONSTRAINT "rule_holds_rule_id_enrolment_id_pk" PRIMARY KEY("rule_id","enrolment_id")
);
--> statement-breakpoint
CREATE TABLE "rules" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "rules_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"course_id" integer NOT NULL,
	"user_id" text NOT NULL,
	"name" text NOT NULL,
	"starter" text,
	"numbers" jsonb NOT NULL,
	"parts" jsonb NOT NULL,
	"about" text NOT NULL,
	"position" integer NOT NULL,
	"state" text NOT NULL,
	"why" text,
	"since" timestamp with time zone,
	"judged_on" date,
	"stale_at" timestamp with time zone,
	"changed_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "course_log" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "course_log_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"course_id" integer NOT NULL,
	"user_id" text,
	"at" timestamp with time zone NOT NULL,
	"what" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "course_staff" (
	"course_id" integer NOT NULL,
	"user_id" text NOT NULL,
	"role" text DEFAULT 'instructor' NOT NULL,
	"until" timestamp with time zone,
	CONSTRAINT "course_staff_course_id_user_id_pk" PRIMARY KEY("course_id","user_id")
);
--> statement-breakpoint
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
CREATE TABLE "upload_pieces" (
	"upload_id" text NOT NULL,
	"file" integer NOT NULL,
	"piece" integer NOT NULL,
	"content" "bytea" NOT NULL,
	CONSTRAINT "upload_pieces_upload_id_file_piece_pk" PRIMARY KEY("upload_id","file","piece")
);
--> statement-breakpoint
CREATE TABLE "uploads" (
	"id" text PRIMARY KEY NOT NULL,
	"course_id" integer,
	"user_id" text,
	"at" timestamp with time zone NOT NULL,
	"names" jsonb NOT NULL,
	"told" jsonb NOT NULL
);
--> statement-breakpoint
ALTER TABLE "acts" ADD CONSTRAINT "acts_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "acts" ADD CONSTRAINT "acts_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "acts" ADD CONSTRAINT "acts_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."user"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "acts" ADD CONSTRAINT "acts_followed_up_by_user_id_fk" FOREIGN KEY ("followed_up_by") REFERENCES "public"."user"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "acts" ADD CONSTRAINT "acts_recipient_id_recipients_id_fk" FOREIGN KEY ("recipient_id") REFERENCES "public"."recipients"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "acts" ADD CONSTRAINT "acts_note_id_notes_id_fk" FOREIGN KEY ("note_id") REFERENCES "public"."notes"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "agreements" ADD CONSTRAINT "agreements_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "agreements" ADD CONSTRAINT "agreements_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "agreements" ADD CONSTRAINT "agreements_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."user"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "agreements" ADD CONSTRAINT "agreements_note_id_notes_id_fk" FOREIGN KEY ("note_id") REFERENCES "public"."notes"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "messages" ADD CONSTRAINT "messages_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "messages" ADD CONSTRAINT "messages_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."user"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "messages" ADD CONSTRAINT "messages_activity_id_activities_id_fk" FOREIGN KEY ("activity_id") REFERENCES "public"."activities"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "notes" ADD CONSTRAINT "notes_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "notes" ADD CONSTRAINT "notes_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "notes" ADD CONSTRAINT "notes_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."user"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "notes" ADD CONSTRAINT "notes_talk_id_talks_id_fk" FOREIGN KEY ("talk_id") REFERENCES "public"."talks"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "plan_steps" ADD CONSTRAINT "plan_steps_plan_id_plans_id_fk" FOREIGN KEY ("plan_id") REFERENCES "public"."plans"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "plan_steps" ADD CONSTRAINT "plan_steps_activity_id_activities_id_fk" FOREIGN KEY ("activity_id") REFERENCES "public"."activities"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "plan_steps" ADD CONSTRAINT "plan_steps_outcome_id_outcomes_id_fk" FOREIGN KEY ("outcome_id") REFERENCES "public"."outcomes"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "plans" ADD CONSTRAINT "plans_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "plans" ADD CONSTRAINT "plans_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."user"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "plans" ADD CONSTRAINT "plans_recipient_id_recipients_id_fk" FOREIGN KEY ("recipient_id") REFERENCES "public"."recipients"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "plans" ADD CONSTRAINT "plans_design_id_plan_designs_id_fk" FOREIGN KEY ("design_id") REFERENCES "public"."plan_designs"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "recipients" ADD CONSTRAINT "recipients_message_id_messages_id_fk" FOREIGN KEY ("message_id") REFERENCES "public"."messages"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "recipients" ADD CONSTRAINT "recipients_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "round_positions" ADD CONSTRAINT "round_positions_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."user"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "round_positions" ADD CONSTRAINT "round_positions_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "round_positions" ADD CONSTRAINT "round_positions_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "templates" ADD CONSTRAINT "templates_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "templates" ADD CONSTRAINT "templates_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."user"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "tray_items" ADD CONSTRAINT "tray_items_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."user"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "tray_items" ADD CONSTRAINT "tray_items_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "tray_items" ADD CONSTRAINT "tray_items_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "tray_items" ADD CONSTRAINT "tray_items_activity_id_activities_id_fk" FOREIGN KEY ("activity_id") REFERENCES "public"."activities"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "view_settings" ADD CONSTRAINT "view_settings_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."user"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "view_settings" ADD CONSTRAINT "view_settings_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "audiences" ADD CONSTRAINT "audiences_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "audiences" ADD CONSTRAINT "audiences_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."user"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "account" ADD CONSTRAINT "account_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."user"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "session" ADD CONSTRAINT "session_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."user"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "user" ADD CONSTRAINT "user_person_id_persons_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."persons"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "attendance" ADD CONSTRAINT "attendance_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "mappings" ADD CONSTRAINT "mappings_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "mappings" ADD CONSTRAINT "mappings_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."user"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "referrals" ADD CONSTRAINT "referrals_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "requirements" ADD CONSTRAINT "requirements_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "responses" ADD CONSTRAINT "responses_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "responses" ADD CONSTRAINT "responses_activity_id_activities_id_fk" FOREIGN KEY ("activity_id") REFERENCES "public"."activities"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "activities" ADD CONSTRAINT "activities_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "activities" ADD CONSTRAINT "activities_category_id_categories_id_fk" FOREIGN KEY ("category_id") REFERENCES "public"."categories"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "activity_outcomes" ADD CONSTRAINT "activity_outcomes_activity_id_activities_id_fk" FOREIGN KEY ("activity_id") REFERENCES "public"."activities"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "activity_outcomes" ADD CONSTRAINT "activity_outcomes_outcome_id_outcomes_id_fk" FOREIGN KEY ("outcome_id") REFERENCES "public"."outcomes"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "categories" ADD CONSTRAINT "categories_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "courses" ADD CONSTRAINT "courses_unit_id_units_id_fk" FOREIGN KEY ("unit_id") REFERENCES "public"."units"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "outcomes" ADD CONSTRAINT "outcomes_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "outcomes" ADD CONSTRAINT "outcomes_parent_id_outcomes_id_fk" FOREIGN KEY ("parent_id") REFERENCES "public"."outcomes"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sections" ADD CONSTRAINT "sections_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "source_ids" ADD CONSTRAINT "source_ids_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "source_ids" ADD CONSTRAINT "source_ids_section_id_sections_id_fk" FOREIGN KEY ("section_id") REFERENCES "public"."sections"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "source_ids" ADD CONSTRAINT "source_ids_category_id_categories_id_fk" FOREIGN KEY ("category_id") REFERENCES "public"."categories"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "activity_days" ADD CONSTRAINT "activity_days_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "activity_days" ADD CONSTRAINT "activity_days_activity_id_activities_id_fk" FOREIGN KEY ("activity_id") REFERENCES "public"."activities"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "activity_totals" ADD CONSTRAINT "activity_totals_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "activity_totals" ADD CONSTRAINT "activity_totals_activity_id_activities_id_fk" FOREIGN KEY ("activity_id") REFERENCES "public"."activities"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "behind" ADD CONSTRAINT "behind_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "class_weeks" ADD CONSTRAINT "class_weeks_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "course_dwells" ADD CONSTRAINT "course_dwells_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "day_totals" ADD CONSTRAINT "day_totals_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "flags" ADD CONSTRAINT "flags_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "masteries" ADD CONSTRAINT "masteries_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "masteries" ADD CONSTRAINT "masteries_outcome_id_outcomes_id_fk" FOREIGN KEY ("outcome_id") REFERENCES "public"."outcomes"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "measures" ADD CONSTRAINT "measures_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "outcome_priors" ADD CONSTRAINT "outcome_priors_outcome_id_outcomes_id_fk" FOREIGN KEY ("outcome_id") REFERENCES "public"."outcomes"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sessions" ADD CONSTRAINT "sessions_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "settled" ADD CONSTRAINT "settled_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "student_dwells" ADD CONSTRAINT "student_dwells_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "student_weeks" ADD CONSTRAINT "student_weeks_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "feed_files" ADD CONSTRAINT "feed_files_feed_id_feeds_id_fk" FOREIGN KEY ("feed_id") REFERENCES "public"."feeds"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "feed_files" ADD CONSTRAINT "feed_files_upload_id_uploads_id_fk" FOREIGN KEY ("upload_id") REFERENCES "public"."uploads"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "feeds" ADD CONSTRAINT "feeds_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "feeds" ADD CONSTRAINT "feeds_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."user"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "units" ADD CONSTRAINT "units_parent_id_units_id_fk" FOREIGN KEY ("parent_id") REFERENCES "public"."units"("id") ON DELETE restrict ON UPDATE no action;--> statement-breakpoint
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
ALTER TABLE "jobs" ADD CONSTRAINT "jobs_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."user"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "aliases" ADD CONSTRAINT "aliases_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "aliases" ADD CONSTRAINT "aliases_person_id_persons_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."persons"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "attachments" ADD CONSTRAINT "attachments_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "credentials" ADD CONSTRAINT "credentials_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "credentials" ADD CONSTRAINT "credentials_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."user"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "documents" ADD CONSTRAINT "documents_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "erasures" ADD CONSTRAINT "erasures_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "erasures" ADD CONSTRAINT "erasures_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."user"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "group_members" ADD CONSTRAINT "group_members_group_id_groups_id_fk" FOREIGN KEY ("group_id") REFERENCES "public"."groups"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "group_members" ADD CONSTRAINT "group_members_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "group_staff" ADD CONSTRAINT "group_staff_group_id_groups_id_fk" FOREIGN KEY ("group_id") REFERENCES "public"."groups"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "group_staff" ADD CONSTRAINT "group_staff_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."user"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "statement_attachments" ADD CONSTRAINT "statement_attachments_of" FOREIGN KEY ("course_id","statement_id") REFERENCES "public"."statements"("course_id","id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "statements" ADD CONSTRAINT "statements_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "waiting" ADD CONSTRAINT "waiting_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "waiting" ADD CONSTRAINT "waiting_import_id_imports_id_fk" FOREIGN KEY ("import_id") REFERENCES "public"."imports"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "enrolments" ADD CONSTRAINT "enrolments_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "enrolments" ADD CONSTRAINT "enrolments_person_id_persons_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."persons"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "enrolments" ADD CONSTRAINT "enrolments_section_id_sections_id_fk" FOREIGN KEY ("section_id") REFERENCES "public"."sections"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "proposals" ADD CONSTRAINT "proposals_person_id_persons_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."persons"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "proposals" ADD CONSTRAINT "proposals_unit_id_units_id_fk" FOREIGN KEY ("unit_id") REFERENCES "public"."units"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "proposals" ADD CONSTRAINT "proposals_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."user"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "attempts" ADD CONSTRAINT "attempts_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "attempts" ADD CONSTRAINT "attempts_activity_id_activities_id_fk" FOREIGN KEY ("activity_id") REFERENCES "public"."activities"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "events" ADD CONSTRAINT "events_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "events" ADD CONSTRAINT "events_activity_id_activities_id_fk" FOREIGN KEY ("activity_id") REFERENCES "public"."activities"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "import_changes" ADD CONSTRAINT "import_changes_import_id_imports_id_fk" FOREIGN KEY ("import_id") REFERENCES "public"."imports"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "imports" ADD CONSTRAINT "imports_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "imports" ADD CONSTRAINT "imports_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."user"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "imports" ADD CONSTRAINT "imports_undone_by_user_id_fk" FOREIGN KEY ("undone_by") REFERENCES "public"."user"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "score_changes" ADD CONSTRAINT "score_changes_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "score_changes" ADD CONSTRAINT "score_changes_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "score_changes" ADD CONSTRAINT "score_changes_activity_id_activities_id_fk" FOREIGN KEY ("activity_id") REFERENCES "public"."activities"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "score_changes" ADD CONSTRAINT "score_changes_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."user"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "scores" ADD CONSTRAINT "scores_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "scores" ADD CONSTRAINT "scores_activity_id_activities_id_fk" FOREIGN KEY ("activity_id") REFERENCES "public"."activities"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "replies" ADD CONSTRAINT "replies_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "replies" ADD CONSTRAINT "replies_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "replies" ADD CONSTRAINT "replies_recipient_id_recipients_id_fk" FOREIGN KEY ("recipient_id") REFERENCES "public"."recipients"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "replies" ADD CONSTRAINT "replies_upload_id_uploads_id_fk" FOREIGN KEY ("upload_id") REFERENCES "public"."uploads"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "replies" ADD CONSTRAINT "replies_read_by_user_id_fk" FOREIGN KEY ("read_by") REFERENCES "public"."user"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "grades_seen" ADD CONSTRAINT "grades_seen_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "grades_seen" ADD CONSTRAINT "grades_seen_activity_id_activities_id_fk" FOREIGN KEY ("activity_id") REFERENCES "public"."activities"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "occasions" ADD CONSTRAINT "occasions_rule_id_rules_id_fk" FOREIGN KEY ("rule_id") REFERENCES "public"."rules"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "occasions" ADD CONSTRAINT "occasions_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "occasions" ADD CONSTRAINT "occasions_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "occasions" ADD CONSTRAINT "occasions_activity_id_activities_id_fk" FOREIGN KEY ("activity_id") REFERENCES "public"."activities"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "occasions" ADD CONSTRAINT "occasions_recipient_id_recipients_id_fk" FOREIGN KEY ("recipient_id") REFERENCES "public"."recipients"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "occasions" ADD CONSTRAINT "occasions_settled_by_user_id_fk" FOREIGN KEY ("settled_by") REFERENCES "public"."user"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "rule_courses" ADD CONSTRAINT "rule_courses_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "rule_holds" ADD CONSTRAINT "rule_holds_rule_id_rules_id_fk" FOREIGN KEY ("rule_id") REFERENCES "public"."rules"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "rule_holds" ADD CONSTRAINT "rule_holds_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "rules" ADD CONSTRAINT "rules_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "rules" ADD CONSTRAINT "rules_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."user"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "course_log" ADD CONSTRAINT "course_log_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "course_log" ADD CONSTRAINT "course_log_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."user"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "course_staff" ADD CONSTRAINT "course_staff_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "course_staff" ADD CONSTRAINT "course_staff_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."user"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "accommodations" ADD CONSTRAINT "accommodations_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "assigned_activities" ADD CONSTRAINT "assigned_activities_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "assigned_activities" ADD CONSTRAINT "assigned_activities_activity_id_activities_id_fk" FOREIGN KEY ("activity_id") REFERENCES "public"."activities"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "given_batches" ADD CONSTRAINT "given_batches_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "given_batches" ADD CONSTRAINT "given_batches_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."user"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "plan_courses" ADD CONSTRAINT "plan_courses_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "plan_designs" ADD CONSTRAINT "plan_designs_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "plan_designs" ADD CONSTRAINT "plan_designs_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."user"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "plan_feeds" ADD CONSTRAINT "plan_feeds_person_id_persons_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."persons"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "study_times" ADD CONSTRAINT "study_times_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
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
ALTER TABLE "upload_pieces" ADD CONSTRAINT "upload_pieces_upload_id_uploads_id_fk" FOREIGN KEY ("upload_id") REFERENCES "public"."uploads"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "uploads" ADD CONSTRAINT "uploads_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "uploads" ADD CONSTRAINT "uploads_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."user"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "acts_course" ON "acts" USING btree ("course_id","enrolment_id");--> statement-breakpoint
CREATE INDEX "acts_recipient" ON "acts" USING btree ("recipient_id");--> statement-breakpoint
CREATE INDEX "acts_note" ON "acts" USING btree ("note_id");--> statement-breakpoint
CREATE INDEX "agreements_enrolment" ON "agreements" USING btree ("enrolment_id");--> statement-breakpoint
CREATE INDEX "agreements_note" ON "agreements" USING btree ("note_id");--> statement-breakpoint
CREATE INDEX "messages_course" ON "messages" USING btree ("course_id");--> statement-breakpoint
CREATE INDEX "notes_enrolment" ON "notes" USING btree ("enrolment_id");--> statement-breakpoint
CREATE INDEX "notes_talk" ON "notes" USING btree ("talk_id");--> statement-breakpoint
CREATE INDEX "plan_steps_plan" ON "plan_steps" USING btree ("plan_id");--> statement-breakpoint
CREATE INDEX "plans_enrolment" ON "plans" USING btree ("enrolment_id");--> statement-breakpoint
CREATE INDEX "plans_recipient" ON "plans" USING btree ("recipient_id");--> statement-breakpoint
CREATE UNIQUE INDEX "plans_of_design" ON "plans" USING btree ("design_id","enrolment_id");--> statement-breakpoint
CREATE UNIQUE INDEX "recipients_once" ON "recipients" USING btree ("message_id","enrolment_id");--> statement-breakpoint
CREATE INDEX "recipients_enrolment" ON "recipients" USING btree ("enrolment_id");--> statement-breakpoint
CREATE INDEX "templates_course" ON "templates" USING btree ("course_id");--> statement-breakpoint
CREATE UNIQUE INDEX "audiences_name" ON "audiences" USING btree ("course_id","name");--> statement-breakpoint
CREATE INDEX "responses_activity" ON "responses" USING btree ("activity_id");--> statement-breakpoint
CREATE UNIQUE INDEX "activities_external" ON "activities" USING btree ("course_id","external_id");--> statement-breakpoint
CREATE INDEX "activity_outcomes_outcome" ON "activity_outcomes" USING btree ("outcome_id");--> statement-breakpoint
CREATE UNIQUE INDEX "categories_name" ON "categories" USING btree ("course_id","name");--> statement-breakpoint
CREATE UNIQUE INDEX "outcomes_external" ON "outcomes" USING btree ("course_id","external_id");--> statement-breakpoint
CREATE UNIQUE INDEX "sections_name" ON "sections" USING btree ("course_id","name");--> statement-breakpoint
CREATE INDEX "activity_days_enrolment" ON "activity_days" USING btree ("enrolment_id","activity_id");--> statement-breakpoint
CREATE INDEX "activity_totals_activity" ON "activity_totals" USING btree ("activity_id");--> statement-breakpoint
CREATE UNIQUE INDEX "flags_of_student" ON "flags" USING btree ("enrolment_id","kind","opened_on");--> statement-breakpoint
CREATE INDEX "sessions_enrolment" ON "sessions" USING btree ("enrolment_id","version","started_at");--> statement-breakpoint
CREATE INDEX "feed_files_feed" ON "feed_files" USING btree ("feed_id");--> statement-breakpoint
CREATE INDEX "feed_files_upload" ON "feed_files" USING btree ("upload_id");--> statement-breakpoint
CREATE INDEX "feeds_course" ON "feeds" USING btree ("course_id");--> statement-breakpoint
CREATE INDEX "answer_steps_student" ON "answer_steps" USING btree ("enrolment_id","activity_id");--> statement-breakpoint
CREATE INDEX "answer_steps_activity" ON "answer_steps" USING btree ("activity_id","item");--> statement-breakpoint
CREATE INDEX "goals_course" ON "goals" USING btree ("course_id");--> statement-breakpoint
CREATE INDEX "item_changes_item" ON "item_changes" USING btree ("activity_id","item");--> statement-breakpoint
CREATE INDEX "item_questions_activity" ON "item_questions" USING btree ("activity_id");--> statement-breakpoint
CREATE UNIQUE INDEX "jobs_key" ON "jobs" USING btree ("key") WHERE "jobs"."state" = 'queued';--> statement-breakpoint
CREATE UNIQUE INDEX "jobs_line" ON "jobs" USING btree ("line") WHERE "jobs"."state" = 'running';--> statement-breakpoint
CREATE INDEX "jobs_open" ON "jobs" USING btree ("run_at") WHERE "jobs"."state" in ('queued', 'running');--> statement-breakpoint
CREATE INDEX "jobs_ended" ON "jobs" USING btree ("ended_at");--> statement-breakpoint
CREATE INDEX "group_members_enrolment" ON "group_members" USING btree ("enrolment_id");--> statement-breakpoint
CREATE INDEX "statement_attachments_sha2" ON "statement_attachments" USING btree ("course_id","sha2");--> statement-breakpoint
CREATE UNIQUE INDEX "statements_place" ON "statements" USING btree ("place");--> statement-breakpoint
CREATE INDEX "statements_order" ON "statements" USING btree ("course_id","place");--> statement-breakpoint
CREATE INDEX "statements_actor" ON "statements" USING btree ("course_id","actor");--> statement-breakpoint
CREATE INDEX "statements_activity" ON "statements" USING btree ("course_id","activity");--> statement-breakpoint
CREATE INDEX "statements_import" ON "statements" USING btree ("course_id","import_id");--> statement-breakpoint
CREATE INDEX "statements_ahead" ON "statements" USING btree ("course_id") WHERE "statements"."at" - "statements"."stored" > interval '24 hours';--> statement-breakpoint
CREATE INDEX "statements_voids" ON "statements" USING btree ("course_id","voids") WHERE "statements"."voids" is not null;--> statement-breakpoint
CREATE UNIQUE INDEX "waiting_key" ON "waiting" USING btree ("course_id","kind","key");--> statement-breakpoint
CREATE INDEX "waiting_person" ON "waiting" USING btree ("course_id","person");--> statement-breakpoint
CREATE INDEX "waiting_import" ON "waiting" USING btree ("import_id");--> statement-breakpoint
CREATE UNIQUE INDEX "enrolments_place" ON "enrolments" USING btree ("course_id","person_id");--> statement-breakpoint
CREATE INDEX "enrolments_person" ON "enrolments" USING btree ("person_id");--> statement-breakpoint
CREATE INDEX "proposals_person" ON "proposals" USING btree ("person_id");--> statement-breakpoint
CREATE INDEX "proposals_unit" ON "proposals" USING btree ("unit_id");--> statement-breakpoint
CREATE INDEX "attempts_activity" ON "attempts" USING btree ("activity_id");--> statement-breakpoint
CREATE INDEX "events_enrolment" ON "events" USING btree ("enrolment_id","at");--> statement-breakpoint
CREATE INDEX "events_activity" ON "events" USING btree ("activity_id");--> statement-breakpoint
CREATE INDEX "events_import" ON "events" USING btree ("course_id","import_id");--> statement-breakpoint
CREATE INDEX "import_changes_import" ON "import_changes" USING btree ("import_id");--> statement-breakpoint
CREATE INDEX "imports_course" ON "imports" USING btree ("course_id");--> statement-breakpoint
CREATE INDEX "imports_job" ON "imports" USING btree ("job_id");--> statement-breakpoint
CREATE INDEX "imports_arriving" ON "imports" USING btree ("id") WHERE "imports"."arriving_until" is not null;--> statement-breakpoint
CREATE INDEX "score_changes_cell" ON "score_changes" USING btree ("enrolment_id","activity_id");--> statement-breakpoint
CREATE INDEX "score_changes_batch" ON "score_changes" USING btree ("batch");--> statement-breakpoint
CREATE INDEX "scores_activity" ON "scores" USING btree ("activity_id");--> statement-breakpoint
CREATE UNIQUE INDEX "replies_once" ON "replies" USING btree ("enrolment_id","key");--> statement-breakpoint
CREATE INDEX "replies_course" ON "replies" USING btree ("course_id","at");--> statement-breakpoint
CREATE UNIQUE INDEX "occasions_once" ON "occasions" USING btree ("rule_id","enrolment_id","key");--> statement-breakpoint
CREATE INDEX "occasions_course" ON "occasions" USING btree ("course_id","state");--> statement-breakpoint
CREATE INDEX "occasions_enrolment" ON "occasions" USING btree ("enrolment_id");--> statement-breakpoint
CREATE INDEX "occasions_recipient" ON "occasions" USING btree ("recipient_id");--> statement-breakpoint
CREATE INDEX "rules_course" ON "rules" USING btree ("course_id");--> statement-breakpoint
CREATE INDEX "course_log_course" ON "course_log" USING btree ("course_id","at");--> statement-breakpoint
CREATE UNIQUE INDEX "assigned_once" ON "assigned_activities" USING btree ("enrolment_id","activity_id");--> statement-breakpoint
CREATE INDEX "assigned_activity" ON "assigned_activities" USING btree ("activity_id");--> statement-breakpoint
CREATE INDEX "given_batches_course" ON "given_batches" USING btree ("course_id");--> statement-breakpoint
CREATE INDEX "plan_designs_course" ON "plan_designs" USING btree ("course_id");--> statement-breakpoint
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
CREATE VIEW "public"."activity_days_now" AS (select "enrolment_id", "activity_id", "day", "seconds", "in_class_seconds", "views", "contributions" from "activity_days" where ("activity_days"."enrolment_id", "activity_days"."version") in (select "enrolments"."id", "enrolments"."version" from "enrolments"));--> statement-breakpoint
CREATE VIEW "public"."activity_totals_now" AS (select "enrolment_id", "activity_id", "first_day", "last_day", "first_contribution", "seconds" from "activity_totals" where ("activity_totals"."enrolment_id", "activity_totals"."version") in (select "enrolments"."id", "enrolments"."version" from "enrolments"));--> statement-breakpoint
CREATE VIEW "public"."day_totals_now" AS (select "enrolment_id", "day", "seconds", "in_class_seconds", "logins", "events", "views", "contributions", "seconds_at_10", "seconds_at_30", "seconds_at_60" from "day_totals" where ("day_totals"."enrolment_id", "day_totals"."version") in (select "enrolments"."id", "enrolments"."version" from "enrolments"));--> statement-breakpoint
CREATE VIEW "public"."sessions_now" AS (select "enrolment_id", "started_at", "ended_at", "seconds", "events" from "sessions" where ("sessions"."enrolment_id", "sessions"."version") in (select "enrolments"."id", "enrolments"."version" from "enrolments"));--> statement-breakpoint
CREATE VIEW "public"."statements_now" AS (select "course_id", "id", "place", "stored", "at", "actor", "verb", "activity", "registration", "voids", "voided", "import_id", "statement" from "statements" where ("statements"."import_id" is null or "statements"."import_id" not in (select "imports"."id" from "imports" where "imports"."arriving_until" is not null)));--> statement-breakpoint
CREATE VIEW "public"."events_now" AS (select "course_id", "event_id", "enrolment_id", "at", "kind", "activity_id", "duration_s", "import_id", "of_statement" from "events" where ("events"."import_id" is null or "events"."import_id" not in (select "imports"."id" from "imports" where "imports"."arriving_until" is not null)));--> statement-breakpoint
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