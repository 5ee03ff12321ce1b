"""The island's own jobs, each from booking to hand-over: what lies between is prepared, the turning point is made in the browser."""

from __future__ import annotations

import re

from playwright.sync_api import expect

from accounts.models import User
from demo_world import stripped
from demo_world.world import JobBuilder
from e2e.base import below
from e2e.stories import StoryTestCase
from jobs.models import Job
from parts_wall.models import Act, PartRecord
from parts_wall.wall import find_wall
from work.models import StepReading, StepRecord, Work


class Stories(StoryTestCase):
    """`self.page` of a technician."""

    def test_01_pinion_seal_on_a_grooved_flange(self) -> None:
        loader = self.story("Road-rail loader, Halden R3", "pinion_seal", "corrie-ls19", "Weeps at the pinion", to="flange_land")
        self.opens(loader, "flange_land")
        answer = self.measures("seal surface", "47.60", "47.66")
        self.page.get_by_label("A fingernail catches in the groove").check()
        self.rows(
            "Ways and prices",
            {"Way": "Repair sleeve", "Parts": "38.90", "Minutes": "35", "Sleeve fits from": "47.5", "to": "47.8"},
            {"Way": "New part", "Parts": "149", "Minutes": "40", "Days to wait": "4"},
        )
        self.sets("Price of an hour", "96")
        for name, text in (("Depth of the groove", "0.31"), ("Old flange's length", "84.2"), ("New flange's length", "84.9")):
            self.page.get_by_role("list", name="Readings").get_by_role("button", name=re.compile(f"^{name}")).click()
            self.page.keyboard.type(text)
            self.page.keyboard.press("Enter")
        expect(answer.get_by_text("Repair sleeve").first).to_be_visible()
        expect(answer.get_by_text(re.compile("marks on the nut are worthless"))).to_be_visible()
        step = self.back_to_the_step()
        expect(step.get_by_text("Recommended: Repair sleeve")).to_be_visible()
        self.chooses("new flange", "The customer wants no sleeve")
        expect(self.page.locator("#step-flange_length.step-in-hand")).to_be_visible()
        self.in_hand.locator("input[name='as_found.flange_length']").fill("84.2")
        self.in_hand.locator("input[name=flange_length]").fill("84.9")
        self.in_hand.get_by_role("button", name="Record", exact=True).click()
        self.passed("flange_length")
        loader.passes_to("nut").done()
        step = self.opens(loader, "nut")
        expect(step.get_by_text("Not open: The new flange is 0.70 mm longer, so the marks mean nothing.")).to_be_visible()
        expect(step.get_by_role("radio", name=re.compile("^Back to its mark"))).to_be_disabled()
        expect(step.get_by_role("radio", name=re.compile("^New crush sleeve"))).to_be_checked()
        step.get_by_role("button", name="Choose").click()
        self.passed("nut")
        self.hands_over(loader, "Pinion seal", "oil under the vehicle", "Torque the wheel nuts again")

    def test_02_both_axles_regeared_and_a_mismatch_that_holds(self) -> None:
        doctor = self.story(
            "Doctor's four-wheel-drive, Brannoch Moor",
            "ring_and_pinion",
            "corrie-ls19",
            "Taller tyres, both axles to be regeared",
            layout="four_wheel_drive",
            more=(("ring_and_pinion", "front_axle", "brannoch-bf21"), ("speedometer", "vehicle", "")),
        )
        doctor.teeth(10, 41).at("front_axle").teeth(11, 41).done()
        self.go(f"/jobs/{doctor.job.pk}", "Run sheet")
        expect(self.page.get_by_text(re.compile("apart: too far apart to lock front and rear together"))).to_be_visible()
        doctor.teeth(10, 41)  # the new sets
        for place in ("front_axle", "rear_axle"):
            doctor.at(place).passes_to("backlash")
            self.sets_up(doctor)
            doctor.passes_to()
        self.go(f"/jobs/{doctor.job.pk}", "Run sheet")
        expect(self.page.get_by_text(re.compile("apart: too far apart"))).to_have_count(0)
        doctor.at("vehicle")
        self.hands_over(doctor, "ring and pinion, front axle", "ring and pinion, rear axle", "never show less than the true speed", "tow")
        self.assertEqual(Work.objects.filter(job=doctor.job, signed_off_at__isnull=False).count(), 3)

    def test_03_third_member_with_an_air_locker_holds_its_air(self) -> None:
        tug = self.story("Ferry-ramp tug, Halden T7", "third_member", "halden-hf25", "Third member for a locker", to="air_locker")
        self.opens(tug, "air_locker")
        self.chooses("^Yes", "Ordered with it")
        expect(self.page.locator("#step-air_locker.step-in-hand")).to_have_count(0)
        tug.passes_to("air_test").done()
        self.opens(tug, "air_test")
        answer = self.measures("air line hold", "7.2 bar", "31", "694", "22", "15")
        self.sets("Drop, at most (kPa)", "10")
        expect(answer.get_by_text("1.7 kPa")).to_be_visible()
        expect(self.back_to_the_step().get_by_text("Air line hold", exact=True)).to_be_visible()
        self.hands_over(tug, "Third member", "air line|air locker")

    def test_04_clutch_packs_from_one_kit(self) -> None:
        crew = self.story("Timber crew pick-up, Corrie Carrier", "clutch_packs", "corrie-ls19", "One wheel spins in the wood", to="soak")
        self.go(f"{below(crew.job)}/diff-bench?tool=clutch_order", "Clutch pack order")
        self.page.get_by_role("button", name=re.compile("^Start the clock ?: New friction")).click()
        expect(self.page.get_by_text(re.compile("New friction plates soaking.*ready")).last).to_be_visible()
        crew.passes_to("stack").done()
        self.opens(crew, "stack")
        answer = self.measures("clutch pack shims", "16.21", "16.34")
        expect(answer.get_by_text("16.81 mm")).to_be_visible()  # 0.30 + 0.30, and 0.25 + 0.25 on the far side
        expect(self.page.get_by_text("Never press it flat")).to_be_visible()
        self.page.get_by_label("Ring gear on the vehicle's").select_option(label="left")
        step = self.back_to_the_step()
        expect(step.get_by_text("2 × 0.30 mm")).to_be_visible()
        expect(step.locator("input[name=stack_left]")).to_have_value("16.810 mm")
        step.get_by_role("button", name="Record", exact=True).click()
        self.passed("stack")
        self.hands_over(crew, "Clutch packs", "friction modifier", "figures of eight|figure")

    def test_05_a_locker_in_place_of_the_spider_gears(self) -> None:
        bus = self.story("Third school minibus, Corrie Carrier", "locker", "corrie-ls19", "Chatters from behind", to="ratchet_test")
        self.opens(bus, "ratchet_test")
        self.measures("locker gap", "5.41", "5.53")
        self.page.get_by_label("Thrust washers").select_option(label="Left out")
        self.sets("Washer thickness (mm)", "0.7")
        expect(self.page.get_by_role("region", name="Answer").get_by_text(re.compile("both thrust washers fitted"))).to_be_visible()
        for way in ("Left wheel, forward", "Left wheel, backward", "Right wheel, forward", "Right wheel, backward"):
            self.page.get_by_label(way).select_option(label="ratchets")
        step = self.back_to_the_step()
        expect(step.locator("input[name=ratchets]")).to_have_value("4")
        step.get_by_role("button", name="Record").click()
        self.passed("ratchet_test")
        self.hands_over(bus, "on ice or wet grass", "follow local rules")

    def test_06_a_register_that_is_not_true(self) -> None:
        tender = self.story("Launch tender, Corrie Carrier", "retention", "corrie-ls19", "Bolted shafts wanted", to="register")
        self.opens(tender, "register")
        answer = self.measures("tube end", "4.30", "4.51", "4.60", "4.51", "4.30", "4.09", "4.00", "4.09")
        self.sets("Guide ring on the register (mm)", "2.0")
        expect(answer.get_by_text("1.70 to 1.80 mm")).to_be_visible()
        expect(answer.get_by_text("Trim at 90°")).to_be_visible()
        expect(self.page.get_by_text("Do this side to the end")).to_be_visible()
        step = self.back_to_the_step()
        expect(step.locator("input[name=stick_out_most]")).to_have_value("4.600 mm")
        step.get_by_role("button", name="Record", exact=True).click()
        self.passed("register")
        self.hands_over(tender, "retention", "follow local rules")
        self.assertAlmostEqual(StepReading.objects.get(record__work=tender.work_id, name="stick_out_least").value, 4.0)

    def test_07_a_half_shaft_that_is_not_home(self) -> None:
        estate = self.story(
            "Vet's estate car, Ostrel Strand",
            "half_shafts",
            "",
            "Clicks on full lock",
            place="front_axle",
            layout="all_wheel_drive",
            to="half_shaft_home",
        )
        self.opens(estate, "half_shaft_home")
        answer = self.measures("half shaft home", "6.0", "2.0")
        expect(answer.get_by_text(re.compile("circlip is not in its groove"))).to_be_visible()
        self.page.get_by_role("list", name="Readings").get_by_role("button", name=re.compile("^Gap now")).click()
        self.page.keyboard.type("2.1")
        self.page.keyboard.press("Enter")
        expect(answer.get_by_text(re.compile("Tug at the joint"))).to_be_visible()
        self.page.get_by_label("Tugged at the joint's body").select_option(label="holds")
        expect(answer.get_by_text(re.compile("Tug at the joint"))).to_have_count(0)
        expect(self.back_to_the_step().locator("input[name=insertion_gap_left]")).to_have_value("2.100 mm")
        self.hands_over(estate, "Half shafts", "Torque the wheel nuts again")

    def test_08_a_final_drive_by_two_people(self) -> None:
        buggy = self.story("Second links buggy, Ostrel Skua", "final_drive", "ostrel-fd14", "Water in the final drive", to="press_bearings")
        self.opens(buggy, "press_bearings")
        old_and_new = (["17.00"], ["17.02"], ["17.08"], ["17.01"])
        self.in_hand.get_by_role("link", name="Diff bench: bearings, old against new").click()
        for name, (text,) in zip(
            ("Old bearing, ring", "Old bearing, far", "New bearing, ring", "New bearing, far"), old_and_new, strict=True
        ):
            self.reads_at(name, text)
        for name, text in (("Ring side shim", "0.30 + 0.10"), ("Far side shim", "0.40")):
            self.reads_at(name, text)
        self.page.get_by_label("Shims", exact=True).select_option(label="under the side covers")
        answer = self.page.get_by_role("region", name="Answer")
        expect(answer.get_by_text("0.48 mm")).to_be_visible()
        self.back_to_the_step()
        other = self.new_page(self.new_context())
        self.sign_in("tam", other)
        self.go(below(buggy.job), "Run sheet", other)
        expect(other.locator("#step-press_bearings").get_by_text("Bearings, old against new").first).to_be_visible()
        other.context.close()
        buggy.hands_to(User.objects.get(username="tam")).teeth(9, 37).passes_to("backlash")
        self.sets_up(buggy)
        self.hands_over(buggy, "Final drive")

    def test_09_needles_of_a_joint_counted(self) -> None:
        keeper = self.story(
            "Second keeper's pick-up, Brannoch Fell",
            "joint",
            "brannoch-p76",
            "Knocks since its springs were changed",
            place="rear_shaft",
            layout="four_wheel_drive",
            to="needles",
        )
        step = self.opens(keeper, "needles")
        step.locator("input[name=needles_due]").fill("28")
        step.locator("input[name=needles]").fill("27")
        step.get_by_role("button", name="Record", exact=True).click()
        expect(step.get_by_role("button", name=re.compile("^Record it"))).to_be_visible()
        expect(self.page.get_by_text(re.compile("27.*28|28.*27|fewer|missing", re.I)).first).to_be_visible()
        step.locator("input[name=needles]").fill("28")  # the last one stuck to the cap
        step.get_by_role("button", name="Record", exact=True).click()
        self.passed("needles")
        self.hands_over(keeper, "Propshaft joint", "propshaft")

    def test_10_an_output_bearing_by_trials_and_its_rollers(self) -> None:
        field_car = self.story(
            "Second field car, Halden Pilot",
            "transfer_output",
            "brannoch-t2",
            "Shakes at speed",
            place="transfer_case",
            layout="four_wheel_drive",
            to="rollers",
        )
        self.opens(field_car, "rollers")
        answer = self.measures("loose rollers", "2.5", "16.2", "22")
        expect(answer.get_by_text(re.compile("One roller is missing"))).to_be_visible()
        step = self.back_to_the_step()
        expect(step.locator("input[name=rollers_due]")).to_have_value("23")
        step.locator("input[name=rollers]").fill("23")  # the last one was in the cover
        step.get_by_role("button", name="Record", exact=True).click()
        self.passed("rollers")
        field_car.passes_to("end_play_trial").done()
        self.opens(field_car, "end_play_trial")
        self.in_hand.get_by_role("link", name="Diff bench: end play by shims").click()
        self.rows(
            "Trials",
            {"Stack": "0.84", "Dial, pushed in": "0 mm", "Dial, pulled out": "0.31 mm"},
            {"Stack": "0.50 + 0.02", "Dial, pushed in": "0 mm", "Dial, pulled out": "0.02 mm"},
        )
        expect(self.page.get_by_role("region", name="Answer").get_by_text("0.52 mm stays in")).to_be_visible()
        step = self.back_to_the_step()
        expect(step.locator("input[name=trial_stack]")).to_have_value("0.520 mm")
        self.hands_over(field_car, "Transfer case output")

    def test_11_a_yoke_whose_seal_surface_is_pitted(self) -> None:
        lorry = self.story(
            "Vintage lorry, Halden Pilot",
            "flange_surface",
            "brannoch-t2",
            "The yoke leaks again after new seals",
            place="transfer_case",
            layout="four_wheel_drive",
            to="flange_land",
        )
        self.opens(lorry, "flange_land")
        answer = self.measures("seal surface", "44.40", "44.42")
        self.page.get_by_label("Pitted where the seal runs").check()
        self.rows(
            "Ways and prices",
            {"Way": "Polished round", "Minutes": "25"},
            {"Way": "Repair sleeve", "Parts": "42", "Minutes": "35", "Sleeve fits from": "44.3", "to": "44.5"},
        )
        self.sets("Price of an hour", "90")
        expect(answer.get_by_text("Not open. Pits would go on leaking.")).to_be_visible()
        step = self.back_to_the_step()
        expect(step.get_by_text("Recommended: Repair sleeve")).to_be_visible()
        self.chooses("sleeve", "Cheaper than a new yoke")
        self.passed("flange_land")
        self.hands_over(lorry, "Seal surface on a flange", "sleeve")

    def test_12_a_hole_near_the_edge_and_a_gasket_of_one_s_own(self) -> None:
        dumper = self.story("Peat dumper, Halden Wharf", "oil_service", "halden-hf25", "Oil at the rear cover, no tag")
        self.go(f"{below(dumper.job)}/diff-bench?tool=gasket", "Gasket")
        self.reads("150", "8", "140", "8")
        answer = self.page.get_by_role("region", name="Answer")
        expect(answer.get_by_text(re.compile("Hole 1 leaves only 1.0 mm of land"))).to_be_visible()
        with self.page.expect_download() as down:
            answer.get_by_role("button", name="PDF, Letter").click()
        self.assertEqual(down.value.suggested_filename, "gasket-letter.pdf")
        answer.get_by_role("button", name="Save to this job").click()
        expect(answer.get_by_role("status")).to_contain_text("Saved")
        self.hands_over(dumper, "Oil service")

    def test_13_a_strip_and_report_leads_to_its_parts_and_its_quote(self) -> None:
        van = self.story("Second bread van, Corrie Carrier", "strip_and_report", "corrie-ls19", "Whines on the drive", to="quote")
        stripped.strip(van, User.objects.get(username="callum"))
        van.done()
        step = self.opens(van, "quote")
        step.get_by_role("link", name="Parts wall").click()
        expect(self.page.get_by_role("tab", name="Quote", selected=True)).to_be_visible()
        self.page.get_by_role("button", name="Link for the customer").click()
        customer = self.new_page(self.new_context())
        customer.goto(self.page.locator("output").inner_text())
        expect(customer.get_by_role("heading", name="Ring gear: broken tooth")).to_be_visible()
        for part in customer.get_by_role("radiogroup").all():
            part.get_by_text("Yes, do it").click()
        customer.get_by_label("Your name").fill("A. Baker")
        customer.get_by_role("button", name="Send the answer").click()
        expect(customer.get_by_text("Answered by A. Baker")).to_be_visible()
        customer.context.close()
        # ten days later a colleague goes on from the wall
        self.go(f"/jobs/{van.job.pk}", "Run sheet")
        self.page.get_by_role("button", name="Add work").click()
        dialog = self.page.get_by_role("dialog")
        dialog.get_by_label("Kind of work").select_option("ring_and_pinion")
        dialog.get_by_label("Part of the vehicle").select_option("rear_axle")
        dialog.get_by_label("Axle family").select_option("corrie-ls19")
        dialog.get_by_role("button", name="Add", exact=True).click()
        expect(self.page.get_by_text(re.compile("^0 of .* done$"))).to_be_visible()
        van.passes_to().hands_to(User.objects.get(username="tam")).at("rear_axle").teeth(10, 41).passes_to("backlash")
        self.sets_up(van)
        self._puts_back(van)
        self.hands_over(van, "Strip and report", "Ring and pinion")

    def _puts_back(self, van: JobBuilder) -> None:
        """The piece is found; everything goes on again, and what is used once is new."""
        wall = find_wall(van.work.pk)
        PartRecord.objects.create(work=van.work, key="ring", act=Act.PIECES, missing=0, **van.record())
        for one in wall.assembly.order_back([state.key for state in wall.in_order]):
            PartRecord.objects.create(work=van.work, key=one.key, act=Act.BACK, is_new=bool(wall.one_time(one.key)), **van.record())

    def test_14_a_taller_final_drive_gear_by_gear(self) -> None:
        mail = self.story("Second mail van, Corrie Carrier", "gear_ratio", "corrie-ls19", "Screams at eighty; another gearbox later")
        mail.teeth(10, 41).passes_to("ratio").done()
        step = self.opens(mail, "ratio")
        step.get_by_role("link", name="Go to the Ratio desk").click()
        expect(self.page.get_by_role("heading", name="Ratio desk")).to_be_visible()
        self.hands_over(mail, "Fuel, pulling away and towing change", "follow local rules")

    def test_15_a_lighter_propshaft_is_measured_before_it_is_ordered(self) -> None:
        carrier = self.story(
            "Second hose carrier, Halden R1", "shaft_made", "halden-p102", "A lighter propshaft is wanted", place="rear_shaft", to="angles"
        )
        step = self.opens(carrier, "angles")
        expect(step.get_by_text(re.compile("Nothing is saved to this work yet"))).to_be_visible()
        step.get_by_role("link", name="Go to the Driveline desk").click()
        expect(self.page.get_by_role("heading", name="Driveline desk")).to_be_visible()
        self.page.get_by_label("Title").fill("At ride height, loaded")
        self.page.get_by_role("button", name="Save to this job").click()
        expect(self.page.get_by_text("At ride height, loaded").first).to_be_visible()
        self.opens(carrier, "angles").get_by_role("button", name=re.compile("^Confirm")).click()
        self.passed("angles")
        self.hands_over(carrier, "Propshaft", "follow local rules")

    def test_16_a_limited_slip_whose_bearings_differ(self) -> None:
        estate = self.story(
            "Lighthouse estate car, Ostrel Firth",
            "differential",
            "ostrel-ir20",
            "Limited slip wanted",
            layout="all_wheel_drive",
            to="flange_runout",
        )
        self.go(f"{below(estate.job)}/diff-bench?tool=bearings", "Bearings, old against new")
        for name, text in (
            ("Old bearing, ring", "29.32"),
            ("Old bearing, far", "29.40"),
            ("New bearing, ring", "29.42"),
            ("New bearing, far", "29.37"),
            ("Ring side shim", "1.85"),
            ("Far side shim", "2.10"),
        ):
            self.reads_at(name, text)
        self.page.get_by_label("Shims", exact=True).select_option(label="beside the bearings")
        answer = self.page.get_by_role("region", name="Answer")
        expect(answer.get_by_text("1.75 mm")).to_be_visible()
        expect(answer.get_by_text(re.compile("toward the pinion"))).to_be_visible()
        estate.teeth(10, 37).passes_to("backlash")
        self.sets_up(estate)
        self.hands_over(estate, "A limited slip needs its own oil")

    def test_17_a_false_jump_on_a_carrier_s_flange(self) -> None:
        bench = self.story("Carrier on the bench, Corrie LS19", "differential", "corrie-ls19", "Rebuild the carrier")
        bench.teeth(10, 41).passes_to("flange_runout").done()
        self.opens(bench, "flange_runout")
        readings = ("0 mm", "0 mm", "0.06 mm", "0 mm", "0 mm", "0 mm", "0 mm", "0.01 mm")
        answer = self.measures("flange runout", *readings)
        expect(answer.get_by_text(re.compile("dried thread locker")).first).to_be_visible()
        self.page.get_by_role("button", name=re.compile("^90°: ")).click()
        self.page.keyboard.type("0.01 mm")
        self.page.keyboard.press("Enter")
        expect(answer.get_by_text("No pattern")).to_be_visible()
        step = self.back_to_the_step()
        step.get_by_role("button", name="Record", exact=True).click()
        self.passed("flange_runout")
        bench.passes_to("backlash")
        self.sets_up(bench)
        self.hands_over(bench, "Differential")
        self.assertEqual(StepRecord.objects.get(work=bench.work_id, step_code="flange_runout").outcome, "passed")

    def test_18_what_it_measured_when_it_left(self) -> None:
        van = Job.objects.get(number=417)
        self.go(f"/vehicles/{van.vehicle_id}", "Post van")
        expect(self.page.get_by_role("heading", name="What it measured when it left")).to_be_visible()
        expect(self.page.get_by_role("row", name=re.compile("Backlash round the ring gear 0.15 to 0.17 mm found 0.24 mm"))).to_be_visible()
        self.page.get_by_role("link", name="New job for this vehicle").click()
        expect(self.page.get_by_text("Known vehicle")).to_be_visible()  # its owner stands in the form by then
        again = self.books("A year later: is it as it was?", ("oil_service", "rear_axle", "corrie-ls19"), odometer="94200")
        self.assertEqual(again.job.vehicle_id, van.vehicle_id)
        self.hands_over(again, "Oil service")
        self.go(f"/vehicles/{van.vehicle_id}", "Post van")
        expect(self.page.get_by_text("A year later: is it as it was?").first).to_be_visible()
