ALTER TABLE "print_run" ADD COLUMN "trial_id" uuid;--> statement-breakpoint
ALTER TABLE "print_run" ADD CONSTRAINT "print_run_trial_id_trial_id_fk" FOREIGN KEY ("trial_id") REFERENCES "public"."trial"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "print_run_trial" ON "print_run" USING btree ("trial_id","created_at");