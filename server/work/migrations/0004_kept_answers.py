"""Kept answers of the three desks come together in one table."""

from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [
        ("driveline_desk", "0002_append_only"),
        ("noise_finder", "0002_append_only"),
        ("ratio_desk", "0002_append_only"),
        ("work", "0003_records"),
    ]

    operations = [
        migrations.RunSQL(
            sql="""
INSERT INTO work_keptanswer (id, client_id, by_id, by_name, at, work_id, area, about, title, inputs, answer, engine_version)
SELECT id, client_id, by_id, by_name, at, job_id, 'ratio', '', title, inputs, answer, engine_version FROM ratio_desk_ratioresult;
SELECT setval(pg_get_serial_sequence('work_keptanswer', 'id'), greatest(1, (SELECT coalesce(max(id), 0) FROM work_keptanswer)), EXISTS (SELECT 1 FROM work_keptanswer));
INSERT INTO work_keptanswer (client_id, by_id, by_name, at, work_id, area, about, title, inputs, answer, engine_version)
SELECT client_id, by_id, by_name, at, job_id, 'driveline', shaft, title, inputs, answer, engine_version FROM driveline_desk_drivelineresult ORDER BY id;
INSERT INTO work_keptanswer (client_id, by_id, by_name, at, work_id, area, about, title, inputs, answer, engine_version)
SELECT client_id, by_id, by_name, at, job_id, 'noise', kind, title, inputs, answer, engine_version FROM noise_finder_noisefinding ORDER BY id;
SET CONSTRAINTS ALL IMMEDIATE;
""",
            reverse_sql="""
INSERT INTO ratio_desk_ratioresult (id, client_id, by_id, by_name, at, job_id, title, inputs, answer, engine_version)
SELECT id, client_id, by_id, by_name, at, work_id, title, inputs, answer, engine_version FROM work_keptanswer WHERE area = 'ratio' ORDER BY id;
SELECT setval(pg_get_serial_sequence('ratio_desk_ratioresult', 'id'), greatest(1, (SELECT coalesce(max(id), 0) FROM ratio_desk_ratioresult)), EXISTS (SELECT 1 FROM ratio_desk_ratioresult));
INSERT INTO driveline_desk_drivelineresult (client_id, by_id, by_name, at, job_id, shaft, title, inputs, answer, engine_version)
SELECT client_id, by_id, by_name, at, work_id, about, title, inputs, answer, engine_version FROM work_keptanswer WHERE area = 'driveline' ORDER BY id;
INSERT INTO noise_finder_noisefinding (client_id, by_id, by_name, at, job_id, kind, title, inputs, answer, engine_version, recording_id)
SELECT kept.client_id, kept.by_id, kept.by_name, kept.at, kept.work_id, kept.about, kept.title, kept.inputs, kept.answer, kept.engine_version, recording.id
FROM work_keptanswer AS kept LEFT JOIN noise_finder_recording AS recording ON recording.client_id::text = kept.inputs ->> 'recording'
WHERE kept.area = 'noise' ORDER BY kept.id;
SET CONSTRAINTS ALL IMMEDIATE;
ALTER TABLE work_keptanswer DISABLE TRIGGER USER;
DELETE FROM work_keptanswer;
SET CONSTRAINTS ALL IMMEDIATE;
ALTER TABLE work_keptanswer ENABLE TRIGGER USER;
""",
        ),
    ]
