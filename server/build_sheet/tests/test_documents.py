"""What was signed stays what it was: shown from its own document, checked against its hash, and under the rule of that day."""

from __future__ import annotations

import html
import io
import json
import uuid

from django.core.files.uploadedfile import SimpleUploadedFile
from django.core.management import CommandError, call_command
from django.db import connection, transaction

from accounts.models import ShopRule
from build_sheet.models import SignOff, SignOffDocument
from setup_bench.models import ConditionCheck
from stores.models import AxleFamily, SpecLimit
from test_support.api_case import ApiTestCase
from test_support.finished import finished_job


class SignedCase(ApiTestCase):
    def setUp(self) -> None:
        self.job = finished_job(self.who["isla"])

    def sign(self, job: str | None = None) -> None:
        self.assertEqual(self.post(f"/work/{job or self.job}/sign-off", {}, by="greta").status_code, 201)

    def page(self) -> str:
        return str(self.call("get", f"/work/{self.job}/sheet.html").content.decode())

    def verified(self) -> str:
        out = io.StringIO()
        try:
            call_command("verify_signoffs", stdout=out)
        except CommandError as wrong:
            return f"{out.getvalue()}{wrong}"
        return out.getvalue()

    def tampered(self, statement: str) -> None:
        """Somebody with the database's own password."""
        table = "setup_bench_reading" if "reading" in statement else "build_sheet_signoffdocument"
        with connection.cursor() as cursor:
            cursor.execute("SET CONSTRAINTS ALL IMMEDIATE")
            cursor.execute(f"ALTER TABLE {table} DISABLE TRIGGER USER")
            cursor.execute(statement)
            cursor.execute("SET CONSTRAINTS ALL IMMEDIATE")
            cursor.execute(f"ALTER TABLE {table} ENABLE TRIGGER USER")

    def assert_says(self, words: str, page: str) -> None:
        """Without the whole page in the message."""
        self.assertTrue(words in page, f"nowhere: {words}")


class Documents(SignedCase):
    def test_limits_edited_later_change_neither_the_sheet_nor_its_pdf(self) -> None:
        self.sign()
        before = self.page()
        SpecLimit.objects.filter(family__code="corrie-ls19", quantity="backlash").update(least=0.30, greatest=0.35)
        AxleFamily.objects.filter(code="corrie-ls19").update(name="Renamed")
        self.assertEqual(self.page(), before)
        self.assert_says("0.13 to 0.20", before)
        bench = self.call("get", f"/work/{self.job}/bench").json()
        self.assertEqual(bench["trials"][-1]["assessment"]["verdict"], "in")
        self.assertIn("1 sign-offs hold", self.verified())

    def test_work_that_is_open_keeps_its_revision_until_somebody_takes_the_newer_one_over(self) -> None:
        SpecLimit.objects.filter(family__code="corrie-ls19", quantity="backlash").update(least=0.30, greatest=0.35)
        other = self.make_job(vehicle="The next van")  # the first work that needs the changed sheet makes its revision
        work = self.call("get", f"/work/{self.job}").json()
        self.assertEqual((work["sheet_revision"], work["newer_sheet"]["number"]), (1, 2))
        self.assertIn("0.3", " ".join(work["newer_sheet"]["changes"]))
        self.assertEqual(self.call("get", f"/work/{self.job}/bench").json()["trials"][-1]["assessment"]["verdict"], "in")
        self.assertEqual(self.call("get", f"/work/{other}").json()["sheet_revision"], 2)
        path, body = f"/work/{self.job}/sheet-revision", {"revision": 2, "version": work["version"], "reason": "Maker's change"}
        self.assert_refused(self.post(path, {**body, "reason": ""}), 422, "bad_input", field="reason")
        self.assert_refused(self.post(path, {**body, "version": work["version"] + 1}), 409, "conflict")
        self.assertEqual(self.post(path, body).json()["sheet_revision"], 2)
        self.assertEqual(self.call("get", f"/work/{self.job}/bench").json()["trials"][-1]["assessment"]["verdict"], "out")
        self.assertIn("“Backlash round the ring", self.call("get", f"/work/{self.job}/sheet", by="greta").json()["cannot_sign"])

    def test_it_says_what_was_confirmed_before_the_readings(self) -> None:
        points = ConditionCheck.objects.filter(trial__work_id=self.job).latest("id").points
        self.assertGreater(len(points), 3)
        self.sign()
        for one in points:
            self.assert_says(one["text"], html.unescape(self.page()))

    def test_a_sign_off_that_was_taken_back_is_still_shown_as_it_was_signed(self) -> None:
        self.sign()
        first = SignOff.objects.get()
        signed = self.page()
        self.post(f"/work/{self.job}/withdraw", {"reason": "Oil seal weeps"}, by="greta")
        trial = str(first.work.trials.latest("number").client_id)
        self.read(trial, "0.18 mm", 22.5)
        self.assertNotEqual(self.page(), signed)
        again = self.call("get", f"/work/{self.job}/sheet.html?sign_off={first.client_id}").content.decode()
        self.assert_says("Signed off", again)
        self.assert_says("<td>22.5&deg;</td>", self.page())
        self.assertFalse("<td>22.5&deg;</td>" in again)
        self.sign()
        self.assertEqual(SignOffDocument.objects.count(), 2)
        self.assertIn("taken back; its text matches its hash", self.verified())

    def test_a_text_or_a_record_changed_behind_its_back_is_told(self) -> None:
        self.sign()
        self.tampered("UPDATE build_sheet_signoffdocument SET text = replace(text, 'Skerrow Post', 'Somebody else')")
        self.assertIn("its text was changed after it was signed", self.verified())
        self.assertIn("1 of 1 sign-offs do not hold", self.verified())
        self.assertTrue(self.call("get", f"/work/{self.job}/sheet").json()["sign_offs"][0]["document"]["changed"])

    def test_records_changed_behind_its_back_are_named(self) -> None:
        self.sign()
        self.tampered("UPDATE setup_bench_reading SET value_mm = 0.9")
        self.assertIn("no longer those that were signed: bench trials", self.verified())

    def test_a_document_is_neither_changed_nor_deleted_in_passing(self) -> None:
        self.sign()
        for statement in ("UPDATE build_sheet_signoffdocument SET text = 'x'", "DELETE FROM build_sheet_signoffdocument"):
            with self.subTest(statement), self.assertRaisesMessage(Exception, "never changed or deleted"), transaction.atomic():
                SignOffDocument.objects.raw(statement + " RETURNING sign_off_id")[0]

    def test_older_sign_offs_are_reconstructed_once_and_marked_so(self) -> None:
        self.sign()
        self.tampered("DELETE FROM build_sheet_signoffdocument")
        for _ in range(2):
            call_command("reconstruct_signoffs", stdout=io.StringIO())
        kept = SignOffDocument.objects.get()
        self.assertTrue(kept.reconstructed)
        self.assert_says("reconstructed", self.page())
        self.assertIn("holds, reconstructed", self.verified())


class TheRule(SignedCase):
    def rule(self, foreman_signs: bool, reason: str = "") -> None:
        self.assertEqual(self.call("patch", "/shop", {"foreman_signs": foreman_signs, "reason": reason}, by="greta").status_code, 200)

    def test_switching_it_off_and_on_leaves_its_trace_and_the_sheet_says_which_rule_held(self) -> None:
        mine = finished_job(self.who["isla"], self.who["greta"], vehicle="Measured by its foreman")
        self.assert_refused(self.post(f"/work/{mine}/sign-off", {}, by="greta"), 422, "not_ready", words="measured the final trial")
        self.rule(False, "Alone today")
        self.sign(mine)
        self.rule(True)
        rows = self.call("get", "/shop/rules", by="greta").json()
        self.assertEqual([(one["foreman_signs"], one["by_name"]) for one in rows][:2], [(True, "Greta Fell"), (False, "Greta Fell")])
        self.assertEqual(rows[1]["reason"], "Alone today")
        signed = self.call("get", f"/work/{mine}/sheet").json()["sign_offs"][0]
        self.assertIs(signed["document"]["rule"], False)
        self.assert_says(
            "Rule in force: the person who measured may sign off", self.call("get", f"/work/{mine}/sheet.html").content.decode()
        )
        self.sign()
        self.assertIs(self.call("get", f"/work/{self.job}/sheet").json()["sign_offs"][0]["document"]["rule"], True)

    def test_the_record_of_the_rule_is_never_changed(self) -> None:
        self.rule(False)
        with self.assertRaisesMessage(Exception, "never changed or deleted"):
            ShopRule.objects.update(foreman_signs=True)


class SaidByAFile(SignedCase):
    def sent(self, plain: dict[str, object]) -> str:
        file = SimpleUploadedFile("job.json", json.dumps(plain).encode(), "application/json")
        reply = self.client_of("isla").post("/api/v1/import", {"client_id": str(uuid.uuid4()), "vehicle": "new", "file": file})
        self.assertEqual(reply.status_code, 201, reply.content)
        return str(reply.json()["job_id"])

    def elsewhere(self) -> dict[str, object]:
        """The signed job as another workshop's file."""
        self.sign()
        text = self.call("get", f"/jobs/{self.job}/job.json").content.decode()
        for one in set(_ids(json.loads(text))):
            text = text.replace(one, str(uuid.uuid5(uuid.NAMESPACE_OID, one)))
        plain: dict[str, object] = json.loads(text)
        return plain

    def test_a_sign_off_out_of_a_file_is_not_this_shops_and_the_work_can_be_signed_here(self) -> None:
        job = self.sent(self.elsewhere())
        sheet = self.call("get", f"/work/{job}/sheet", by="greta").json()
        self.assertEqual([(one["origin"], one["by_name"]) for one in sheet["sign_offs"]], [("file", "Greta Fell")])
        self.assertFalse(sheet["signed"])
        self.assertIn("changed after it was written", sheet["imported_note"])  # its ids are others now
        page = self.call("get", f"/work/{job}/sheet.html").content.decode()
        self.assert_says("Said by the file, not signed here:", page)
        self.sign(job)
        self.assertEqual([one.origin for one in SignOff.objects.filter(work_id=job)], ["file", "here"])
        self.assertIn("1 of 3 sign-offs do not hold", self.verified())  # the text of the file's, which was changed on its way

    def test_a_forged_one_is_no_more_than_said_by_the_file(self) -> None:
        plain = self.elsewhere()
        work = plain["works"][0]  # type: ignore[index]
        work["sign_offs"][0].update(by="Somebody Important", origin="here")
        job = self.sent(plain)
        sheet = self.call("get", f"/work/{job}/sheet").json()
        self.assertEqual([(one["origin"], one["by_name"]) for one in sheet["sign_offs"]], [("file", "Somebody Important")])
        self.assertFalse(sheet["signed"])


def _ids(node: object) -> list[str]:
    """Every id in a file."""
    if isinstance(node, dict):
        return [found for value in node.values() for found in _ids(value)]
    if isinstance(node, list):
        return [found for value in node for found in _ids(value)]
    if isinstance(node, str) and len(node) == 36 and node.count("-") == 4:
        return [node]
    return []
