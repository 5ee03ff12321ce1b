"""A sign-off that a file brought is the file's word, not this shop's; such work is open to be signed here."""

from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [
        ("build_sheet", "0003_documents"),
        ("jobs", "0006_visits"),
    ]

    operations = [
        migrations.RunSQL(
            sql="""
ALTER TABLE build_sheet_signoff DISABLE TRIGGER USER;
UPDATE build_sheet_signoff SET origin = 'file' WHERE by_id IS NULL;
SET CONSTRAINTS ALL IMMEDIATE;
ALTER TABLE build_sheet_signoff ENABLE TRIGGER USER;
CREATE TEMPORARY TABLE said_by_files ON COMMIT DROP AS
SELECT id FROM work_work WHERE signed_off_at IS NOT NULL AND EXISTS (SELECT 1 FROM build_sheet_signoff WHERE work_id = work_work.id)
AND NOT EXISTS (SELECT 1 FROM build_sheet_signoff AS mine LEFT JOIN build_sheet_withdrawal AS gone ON gone.sign_off_id = mine.id
    WHERE mine.work_id = work_work.id AND mine.origin = 'here' AND gone.id IS NULL);
UPDATE work_work SET signed_off_at = NULL, state = 'to_sign', next_action = 'Sign the work off' WHERE id IN (SELECT id FROM said_by_files);
UPDATE jobs_job SET signed_off_at = NULL, state = 'to_sign', floor_order = 0, next_action = 'Sign the work off'
WHERE id IN (SELECT job_id FROM work_work WHERE id IN (SELECT id FROM said_by_files));
SET CONSTRAINTS ALL IMMEDIATE;
""",
            reverse_sql="""
CREATE TEMPORARY TABLE said_by_files ON COMMIT DROP AS
SELECT work_id AS id, max(at) AS at FROM build_sheet_signoff WHERE origin = 'file' AND NOT EXISTS (
    SELECT 1 FROM build_sheet_withdrawal WHERE sign_off_id = build_sheet_signoff.id) GROUP BY work_id;
UPDATE work_work SET signed_off_at = said.at, state = 'done' FROM said_by_files AS said WHERE said.id = work_work.id AND signed_off_at IS NULL;
UPDATE jobs_job SET signed_off_at = said.at, state = 'done', floor_order = 4 FROM said_by_files AS said WHERE said.id = jobs_job.id AND signed_off_at IS NULL;
SET CONSTRAINTS ALL IMMEDIATE;
""",
        ),
        migrations.AddConstraint(
            model_name="signoff",
            constraint=models.CheckConstraint(
                condition=models.Q(("origin", "file"), ("by__isnull", False), _connector="OR"), name="sign_off_here_has_a_login"
            ),
        ),
    ]
