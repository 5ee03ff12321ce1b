"""Pictures that an earlier release kept as text when it took a job in."""

from __future__ import annotations

from base64 import b64encode
from importlib import import_module

from django.db import connection

from setup_bench.models import PatternPhoto, Trial
from test_support.api_case import ApiTestCase, picture


class ImportedPictures(ApiTestCase):
    def test_they_become_pictures_again_and_others_stay(self) -> None:
        trial = Trial.objects.get(client_id=self.trial_id(self.begin(self.make_job())))
        kept = [picture("JPEG"), picture("PNG"), picture("WEBP")]
        for content in [*kept, *(b64encode(one) for one in kept)]:
            PatternPhoto.objects.create(trial=trial, flank="drive", content=content, media_type="image/jpeg", by_name="Imported job")
        sql = import_module("setup_bench.migrations.0010_imported_pictures")._DECODE
        with connection.cursor() as cursor:
            cursor.execute("SET CONSTRAINTS ALL IMMEDIATE")
            cursor.execute(sql)
        self.assertEqual([bytes(one.content) for one in PatternPhoto.objects.order_by("id")], kept * 2)
