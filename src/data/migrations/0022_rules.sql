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
CREATE UNIQUE INDEX "occasions_once" ON "occasions" USING btree ("rule_id","enrolment_id","key");--> statement-breakpoint
CREATE INDEX "occasions_course" ON "occasions" USING btree ("course_id","state");--> statement-breakpoint
CREATE INDEX "occasions_enrolment" ON "occasions" USING btree ("enrolment_id");--> statement-breakpoint
CREATE INDEX "occasions_recipient" ON "occasions" USING btree ("recipient_id");--> statement-breakpoint
CREATE INDEX "rules_course" ON "rules" USING btree ("course_id");