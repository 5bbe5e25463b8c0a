ALTER TABLE "tray_items" ADD COLUMN "about" text DEFAULT 'other' NOT NULL;--> statement-breakpoint
ALTER TABLE "tray_items" ADD COLUMN "activity_id" integer;--> statement-breakpoint
ALTER TABLE "tray_items" ADD COLUMN "source" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "tray_items" ADD CONSTRAINT "tray_items_activity_id_activities_id_fk" FOREIGN KEY ("activity_id") REFERENCES "public"."activities"("id") ON DELETE set null ON UPDATE no action;