CREATE TABLE "behind" (
	"enrolment_id" integer PRIMARY KEY NOT NULL,
	"since" timestamp with time zone NOT NULL,
	"removed" boolean DEFAULT false NOT NULL
);
--> statement-breakpoint
CREATE TABLE "course_dwells" (
	"course_id" integer NOT NULL,
	"kind" integer NOT NULL,
	"counts" jsonb NOT NULL,
	CONSTRAINT "course_dwells_course_id_kind_pk" PRIMARY KEY("course_id","kind")
);
--> statement-breakpoint
CREATE TABLE "student_dwells" (
	"enrolment_id" integer PRIMARY KEY NOT NULL,
	"counts" jsonb NOT NULL,
	"relies" jsonb NOT NULL,
	"typical" jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "units" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "units_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"name" text NOT NULL,
	"parent_id" integer
);
--> statement-breakpoint
CREATE TABLE "aliases" (
	"course_id" integer NOT NULL,
	"value" text NOT NULL,
	"person_id" integer NOT NULL,
	CONSTRAINT "aliases_course_id_value_pk" PRIMARY KEY("course_id","value")
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
CREATE TABLE "import_changes" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "import_changes_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"import_id" integer NOT NULL,
	"kind" text NOT NULL,
	"key" text NOT NULL,
	"before" jsonb,
	"after" jsonb NOT NULL
);
--> statement-breakpoint
ALTER TABLE "activities" ADD COLUMN "closes_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "courses" ADD COLUMN "unit_id" integer;--> statement-breakpoint
ALTER TABLE "courses" ADD COLUMN "join_code" text;--> statement-breakpoint
ALTER TABLE "courses" ADD COLUMN "archived_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "courses" ADD COLUMN "rev" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "courses" ADD COLUMN "setup_rev" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "outcomes" ADD COLUMN "parent_id" integer;--> statement-breakpoint
ALTER TABLE "sections" ADD COLUMN "exceptions" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "enrolments" ADD COLUMN "rev" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "events" ADD COLUMN "import_id" integer;--> statement-breakpoint
ALTER TABLE "imports" ADD COLUMN "undone_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "imports" ADD COLUMN "undone_by" text;--> statement-breakpoint
ALTER TABLE "scores" ADD COLUMN "from_statements" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "behind" ADD CONSTRAINT "behind_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "course_dwells" ADD CONSTRAINT "course_dwells_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "student_dwells" ADD CONSTRAINT "student_dwells_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "units" ADD CONSTRAINT "units_parent_id_units_id_fk" FOREIGN KEY ("parent_id") REFERENCES "public"."units"("id") ON DELETE restrict ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "aliases" ADD CONSTRAINT "aliases_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "aliases" ADD CONSTRAINT "aliases_person_id_persons_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."persons"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "credentials" ADD CONSTRAINT "credentials_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "credentials" ADD CONSTRAINT "credentials_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."user"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "erasures" ADD CONSTRAINT "erasures_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "erasures" ADD CONSTRAINT "erasures_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."user"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "group_members" ADD CONSTRAINT "group_members_group_id_groups_id_fk" FOREIGN KEY ("group_id") REFERENCES "public"."groups"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "group_members" ADD CONSTRAINT "group_members_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "group_staff" ADD CONSTRAINT "group_staff_group_id_groups_id_fk" FOREIGN KEY ("group_id") REFERENCES "public"."groups"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "group_staff" ADD CONSTRAINT "group_staff_user_id_user_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."user"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "statements" ADD CONSTRAINT "statements_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "waiting" ADD CONSTRAINT "waiting_course_id_courses_id_fk" FOREIGN KEY ("course_id") REFERENCES "public"."courses"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "waiting" ADD CONSTRAINT "waiting_import_id_imports_id_fk" FOREIGN KEY ("import_id") REFERENCES "public"."imports"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "import_changes" ADD CONSTRAINT "import_changes_import_id_imports_id_fk" FOREIGN KEY ("import_id") REFERENCES "public"."imports"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "group_members_enrolment" ON "group_members" USING btree ("enrolment_id");--> statement-breakpoint
CREATE UNIQUE INDEX "statements_place" ON "statements" USING btree ("place");--> statement-breakpoint
CREATE INDEX "statements_order" ON "statements" USING btree ("course_id","place");--> statement-breakpoint
CREATE INDEX "statements_actor" ON "statements" USING btree ("course_id","actor");--> statement-breakpoint
CREATE UNIQUE INDEX "waiting_key" ON "waiting" USING btree ("course_id","kind","key");--> statement-breakpoint
CREATE INDEX "waiting_person" ON "waiting" USING btree ("course_id","person");--> statement-breakpoint
CREATE INDEX "import_changes_import" ON "import_changes" USING btree ("import_id");--> statement-breakpoint
ALTER TABLE "courses" ADD CONSTRAINT "courses_unit_id_units_id_fk" FOREIGN KEY ("unit_id") REFERENCES "public"."units"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "outcomes" ADD CONSTRAINT "outcomes_parent_id_outcomes_id_fk" FOREIGN KEY ("parent_id") REFERENCES "public"."outcomes"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "imports" ADD CONSTRAINT "imports_undone_by_user_id_fk" FOREIGN KEY ("undone_by") REFERENCES "public"."user"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "courses" ADD CONSTRAINT "courses_join_code_unique" UNIQUE("join_code");