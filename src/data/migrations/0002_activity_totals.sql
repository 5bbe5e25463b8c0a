CREATE TABLE "activity_totals" (
	"enrolment_id" integer NOT NULL,
	"activity_id" integer NOT NULL,
	"first_day" date NOT NULL,
	"last_day" date NOT NULL,
	"first_contribution" date,
	"seconds" double precision NOT NULL,
	CONSTRAINT "activity_totals_enrolment_id_activity_id_pk" PRIMARY KEY("enrolment_id","activity_id")
);
--> statement-breakpoint
ALTER TABLE "activity_totals" ADD CONSTRAINT "activity_totals_enrolment_id_enrolments_id_fk" FOREIGN KEY ("enrolment_id") REFERENCES "public"."enrolments"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "activity_totals" ADD CONSTRAINT "activity_totals_activity_id_activities_id_fk" FOREIGN KEY ("activity_id") REFERENCES "public"."activities"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "activity_totals_activity" ON "activity_totals" USING btree ("activity_id");