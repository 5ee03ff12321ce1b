"""Who may ask what: every address of the API by every role. An address that has no row here fails."""

from __future__ import annotations

import json
import re
import uuid
from collections.abc import Iterator
from typing import Any
from unittest import mock

from django.apps import apps
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import connection, transaction
from django.test import Client
from weasyprint import HTML

from config.api import api
from driveline_desk.tests.test_desk import inputs as driveline_inputs
from noise_finder.tests.test_finder import VAN
from ratio_desk.tests.test_desk import inputs as ratio_inputs
from test_support.api_case import API, ApiTestCase, picture

PEOPLE = {"technician": "isla", "foreman": "greta", "counter": "callum", "read_only": "visitor"}
ROLES = frozenset(PEOPLE)
_AT_THE_BENCH = frozenset({"technician", "foreman"})
_WITH_THE_COUNTER = _AT_THE_BENCH | {"counter"}
_STORES = frozenset({"foreman", "counter"})
_FOREMAN = frozenset({"foreman"})

ROWS: dict[frozenset[str], str] = {
    ROLES | {"stranger"}: """
        csrf_token welcome sign_in me shared_ratio shared_quote shared_quote_photo shared_quote_answer
    """,
    ROLES: """
        sign_out set_preferences change_password shop_rules shop_hours terms families quantities fastener_places shim_moves gearboxes
        transfer_cases vehicles vehicle floor floor_today floor_plan job kinds vehicle_visits work kind_library blocks step_photo
        hand_over hand_over_html hand_over_pdf hand_over_ics ratio_desk ratio_work ratio_result driveline_desk driveline_work
        driveline_remedies driveline_result driveline_order_pdf noise_finder noise_felt noise_recorded recording noise_finding parts_wall
        part_photo part_photo_small parts_order_pdf parts_labels diff_bench_alone diff_bench diff_work diff_result gasket_file bench advice
        contact patch_preview odds_kept photo typed_length sheet sheet_html sheet_pdf run_sheet_html run_sheet_pdf
    """,
    _AT_THE_BENCH: """
        odometer_read station_set sheet_adopt way_choose gear_set_record step_pass step_begin step_skip step_photo_add step_take_back
        follow_up_end joint_inspection_keep recording_add recording_read_again recording_simulate parts_build part_off part_photo_add
        part_look part_pieces part_back part_undo part_need part_need_all parts_announced diff_result_keep trial_begin reading_record
        reading_strike_out conditions_confirm pattern_record photo_add torque_record depth_record basis_set sleeve_step_record
        sleeve_step_take_back spacer_try_record instrument_check sign_off
    """,
    _WITH_THE_COUNTER: """
        vehicle_create vehicle_edit assembly_set job_create job_edit axle_fact_record work_add work_edit hand_over_give ratio_result_keep
        ratio_result_fitted ratio_link_make driveline_result_keep noise_finding_keep quote_make quote_end job_import
    """,
    _STORES: "family_save family_share set_shim_count catalogue_import",
    frozenset(): "shop_add",
    _FOREMAN: "set_shop set_shop_hours sign_off_withdraw people add_person change_person set_persons_password kind_shape own_kind",
}
FILES = [
    "catalogue_csv",
    "sheets_json",
    "ratio_result_csv",
    "ratio_result_json",
    "driveline_result_csv",
    "driveline_result_json",
    "recording_spectrum_csv",
    "noise_finding_csv",
    "noise_finding_json",
    "parts_order_csv",
    "diff_result_csv",
    "diff_result_json",
    "job_json",
    "job_zip",
    "readings_csv",
]
"""What the workshop's own rule opens; a foreman always may."""

SHEET = {
    "revision": 1,
    "name": "x",
    "maker": "x",
    "build": "x",
    "carrier_method": "side_shims",
    "shim_place": "behind_cup",
    "preload_method": "spacer",
    "ring_outer_diameter_mm": 190,
    "tooth_form": "tapered",
}


def operations() -> Iterator[tuple[str, str, str]]:
    """(method, path template, name) of every address, those outside the schema too; the computations are one."""
    for _, router in api._routers:
        for path, view in router.path_operations.items():
            for one in view.operations:
                if not path.startswith("/compute/"):
                    for method in one.methods:
                        yield method.lower(), path, str(one.operation_id)


def allowed() -> dict[str, frozenset[str]]:
    """Which roles may, by operation."""
    return {name: roles for roles, names in ROWS.items() for name in names.split()}


def _filled(path: str, ids: dict[str, str]) -> str:
    def value(found: re.Match[str]) -> str:
        kind, _, name = found[1].rpartition(":")
        return ids.get(name) or ("1" if kind == "int" else str(uuid.uuid4()))

    return re.sub(r"\{([^}]+)\}", value, path)


class Permissions(ApiTestCase):
    def setUp(self) -> None:
        self.clients: dict[str, Client] = {}
        for role in (*PEOPLE, "stranger"):
            self.clients[role] = self.client_of(PEOPLE.get(role))
        self.job = self.make_job()
        self.trial = self.trial_id(self.begin(self.job))
        self.vehicle = self.call("get", f"/jobs/{self.job}").json()["vehicle_id"]
        self.person = str(self.who["tam"].pk)

    def ask(self, method: str, path: str, body: Any, role: str) -> Any:
        """One request, and nothing of it stays."""
        client = self.clients[role]
        with transaction.atomic():
            if isinstance(body, tuple):
                content = {"client_id": str(uuid.uuid4()), **body[0], "file": SimpleUploadedFile(*body[1])}
                reply = client.post(API + path, content)
            elif method == "get":
                reply = client.get(API + path)
            else:
                sent = {"client_id": str(uuid.uuid4()), **body}
                reply = client.generic(method.upper(), API + path, json.dumps(sent), content_type="application/json")
            transaction.set_rollback(True)
        return reply

    def test_every_address_has_a_row(self) -> None:
        names = [name for *_, name in operations()]
        rows = [name for names in ROWS.values() for name in names.split()] + FILES
        self.assertEqual(sorted(rows), sorted(names))

    def test_what_is_read_is_open_to_whom_the_row_says(self) -> None:
        ids = {"code": "corrie-ls19", "place": "engine", "kind": "gearboxes", "token": "x" * 43, "step": "complaint", "key": "cover"}
        ids |= {"job_id": self.job, "work_id": self.job, "vehicle_id": self.vehicle, "trial_id": self.trial}
        rows = allowed() | dict.fromkeys(FILES, ROLES)
        self.enterContext(mock.patch.object(HTML, "write_pdf", return_value=b"%PDF-"))  # laid out in the tests of each paper
        for method, path, name in operations():
            if method != "get":
                continue
            for role in (*PEOPLE, "stranger"):
                with self.subTest(name, role=role):
                    self.judge(self.ask(method, _filled(path, ids), {}, role), role, rows[name])

    def test_who_may_not_export_gets_no_file(self) -> None:
        self.call("patch", "/shop", {"export_roles": ["counter"]}, by="greta")
        ids = {"kind": "gearboxes", "job_id": self.job, "work_id": self.job}
        for method, path, name in operations():
            for role in (*PEOPLE, "stranger") if name in FILES else ():
                with self.subTest(name, role=role):
                    self.judge(self.ask(method, _filled(path, ids), {}, role), role, _STORES)

    def test_what_is_written_is_open_to_whom_the_row_says_and_the_others_leave_no_trace(self) -> None:
        rows, writes = allowed(), self.writes()
        for method, path, name in operations():
            if method == "get" or rows[name] >= ROLES:
                continue
            template = re.compile(re.sub(r"\{[^}]+\}", "[^/]+", path))
            found = [(address, body) for verb, address, body in writes if verb == method and template.fullmatch(address)]
            self.assertTrue(found, f"{method} {path} has no request")
            for role in (*PEOPLE, "stranger"):
                with self.subTest(name, role=role):
                    before = self.counts() if role not in rows[name] else {}
                    self.judge(self.ask(method, *found[0], role), role, rows[name])
                    self.assertEqual(before, before and self.counts())

    def judge(self, reply: Any, role: str, roles: frozenset[str]) -> None:
        """A role that may is not refused; who may not is told which roles can, and a stranger to sign in."""
        if role in roles:
            self.assertNotIn(reply.status_code, (401, 403, 500), reply.content[:200])
        elif role == "stranger":
            self.assert_refused(reply, 401, "signed_out")
        else:
            self.assert_refused(reply, 403, "not_allowed", words="can")

    def writes(self) -> list[tuple[str, str, Any]]:
        """A request for every write that not everybody may make."""
        job, trial, vehicle = self.job, self.trial, self.vehicle
        reading = self.read(trial, "20").json()["trials"][0]["readings"][0]["id"]
        result = self.post(f"/work/{job}/ratio-results", {"title": "kept", "inputs": ratio_inputs()}).json()["id"]
        photo, drive = ("tooth.jpg", picture(), "image/jpeg"), ("d.csv", b"1,2\n", "text/csv")
        return [
            ("post", "/jobs", self.card()),
            ("patch", f"/jobs/{job}", {"version": 1, "customer": "x"}),
            ("put", f"/jobs/{job}/stations/engine", {"state": "good", "version": 1}),
            ("post", f"/work/{job}/gear-set", {"pinion_teeth": 9, "ring_teeth": 41}),
            ("post", f"/work/{job}/steps/complaint/pass", {}),
            ("post", f"/work/{job}/steps/complaint/take-back", {"reason": "x"}),
            ("post", f"/work/{job}/trials", {"after": 1, "ring_side": "1 mm", "far_side": "1 mm"}),
            ("post", f"/trials/{trial}/readings", {"angle_deg": 45, "typed": "20"}),
            ("post", f"/readings/{reading}/strike-out", {"reason": "x"}),
            ("post", f"/trials/{trial}/conditions", {}),
            (
                "post",
                f"/trials/{trial}/patterns",
                {"flank": "drive", "u": 0.5, "v": 0.5, "length": 0.5, "height": 0.5, "tilt_deg": 0.0},
            ),
            ("post", f"/trials/{trial}/torques", {"what": "pinion", "typed": "2 Nm", "bearings": "new", "seal": "absent"}),
            ("post", f"/trials/{trial}/depths", {"tool": "face", "reading": "58.4"}),
            ("post", f"/work/{job}/basis", {"set_state": "new", "drive_flank": "convex"}),
            ("post", f"/work/{job}/sleeve-steps", {"sleeve": 1, "nut_turn_deg": 0, "typed": "0.3 Nm"}),
            ("post", f"/work/{job}/sleeve-steps/{uuid.uuid4()}/take-back", {"reason": "x"}),
            ("post", f"/work/{job}/spacer-tries", {"stack": "0.4 mm", "end_play": "0.1 mm"}),
            ("post", f"/work/{job}/instrument-checks", {"zero": "0", "block": "1 mm", "block_read": "1 mm", "back": "0"}),
            ("post", f"/jobs/{job}/axle-facts", {"end": "rear", "tyre": "215/75R16"}),
            ("post", f"/work/{job}/ratio-results", {"title": "x", "inputs": ratio_inputs()}),
            ("post", f"/ratio-results/{result}/links", {}),
            ("post", f"/ratio-results/{result}/fitted", {"gearing": 0}),
            ("post", f"/work/{job}/driveline-results", {"title": "x", "inputs": driveline_inputs()}),
            ("post", f"/work/{job}/joint-inspections", {"shaft": "rear", "joint": 1, "felt": {}, "decision": "look"}),
            ("post", f"/work/{job}/simulated-recordings", {"drivetrain": VAN, "faults": ["nothing"], "seconds": 5}),
            ("post", f"/work/{job}/noise-findings", {"title": "x", "felt": {"drivetrain": VAN, "tests": [{"speed_kmh": 90}]}}),
            ("post", f"/work/{job}/sign-off", {}),
            ("post", f"/work/{job}/withdraw", {"reason": "x"}),
            ("post", f"/jobs/{job}/work", {"id": str(uuid.uuid4()), "axle": "rear", "family": "corrie-ls19"}),
            ("patch", f"/work/{job}", {"version": 1, "family": "ostrel-ir20"}),
            ("post", f"/work/{job}/sheet-revision", {"revision": 1, "version": 1, "reason": "x"}),
            ("post", f"/work/{job}/ways", {"question": "preload", "way": "spacer", "reason": "x"}),
            ("post", "/vehicles", {"id": str(uuid.uuid4()), "owner": "x", "name": "y", "layout": "rear_drive"}),
            ("patch", f"/vehicles/{vehicle}", {"version": 1, "name": "z"}),
            ("put", f"/vehicles/{vehicle}/assemblies/rear_axle", {"family": "ostrel-ir20"}),
            ("post", f"/vehicles/{vehicle}/odometer", {"typed": "81000"}),
            ("post", f"/recordings/{uuid.uuid4()}/read-again", {}),
            ("put", "/families/corrie-ls19/shims", {"place": "side", "thickness_mm": 1.0, "count": 1, "version": 0}),
            ("put", "/families/corrie-ls19", SHEET),
            ("put", "/families/corrie-ls19/sharing", {"shared": True}),
            ("post", "/shops", {"name": "x", "username": "new", "display_name": "New", "password": "anvil-lantern-47"}),
            ("post", f"/jobs/{job}/hand-over", {"odometer": "81000", "received_by": "x"}),
            ("post", "/follow-ups/1/end", {}),
            ("put", "/kinds/own_a", {"number": 0, "title": "A", "places": ["rear_axle"], "blocks": ["seal"]}),
            ("put", "/kinds/oil_service/library", {"number": 0, "reason": "x", "shape": {}}),
            ("post", f"/work/{job}/steps/complaint/begin", {}),
            ("post", f"/work/{job}/steps/complaint/skip", {"reason": "x"}),
            ("post", f"/work/{job}/diff-results", {"tool": "bolts", "values": {"count": "4", "target_nm": "20"}, "title": "Bolts"}),
            ("post", f"/work/{job}/parts/build", {"facts": {"unit": "beam"}}),
            ("post", f"/work/{job}/parts/off", {"key": "cover"}),
            ("post", f"/work/{job}/parts/looks", {"key": "cover", "decision": "good"}),
            ("post", f"/work/{job}/parts/pieces", {"key": "ring", "missing": 1}),
            ("post", f"/work/{job}/parts/back", {"key": "cover"}),
            ("post", f"/work/{job}/parts/undo", {"record": str(uuid.uuid4())}),
            ("post", f"/work/{job}/parts/needs", {"line": str(uuid.uuid4()), "name": "Seal"}),
            ("post", f"/work/{job}/parts/needs/proposed", {"keys": ["pnut"]}),
            ("post", f"/work/{job}/parts/announced", {"waiting": 1}),
            ("post", f"/work/{job}/parts/quotes", {"hourly": "60", "keys": ["ring"]}),
            ("post", f"/quote-links/{uuid.uuid4()}/end", {}),
            ("patch", "/shop", {"foreman_signs": False}),
            ("put", "/shop/hours", {"hours": [{"weekday": 0, "from": "08:00", "to": "16:00"}], "hands": 1}),
            ("post", f"/trials/{trial}/photos", ({"flank": "drive"}, photo)),
            ("post", f"/work/{job}/steps/complaint/photos", ({}, photo)),
            ("post", f"/work/{job}/parts/photos", ({"key": "cover"}, photo)),
            ("post", f"/work/{job}/recordings", ({"from_kmh": 60, "to_kmh": 90}, drive)),
            ("post", "/stores/gearboxes/import", ({}, ("list.csv", b"code,name,maker,gears\nx,X,M,2 1\n", "text/csv"))),
            ("post", "/import", ({}, ("job.json", b"{}", "application/json"))),
            ("post", "/people", {"username": "new", "display_name": "New", "role": "technician", "password": "anvil-lantern-47"}),
            ("patch", f"/people/{self.person}", {"role": "counter"}),
            ("post", f"/people/{self.person}/password", {"password": "anvil-lantern-47"}),
        ]

    @staticmethod
    def counts() -> dict[str, int]:
        ours = (
            "records",
            "accounts",
            "stores",
            "vehicles",
            "jobs",
            "work",
            "ratio_desk",
            "driveline_desk",
            "noise_finder",
            "parts_wall",
            "setup_bench",
            "build_sheet",
            "hand_over",
        )
        tables = [model._meta.db_table for app in ours for model in apps.get_app_config(app).get_models()]
        with connection.cursor() as cursor:
            cursor.execute(" UNION ALL ".join(f"SELECT '{table}', count(*) FROM {table}" for table in tables))
            return dict(cursor.fetchall())
