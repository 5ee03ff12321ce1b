import { ask, client, sentence, type Schemas } from "../api/client";
import type { Unwritten } from "../lib/envelope";
import { UnansweredIds } from "../lib/ids";
import { sendOnce } from "../lib/writes";

type Inputs = Schemas["RatioInputs"];
type Desk = Schemas["DeskOut"];
type Answer = Schemas["RatioAnswer"];
export type Pairing = Schemas["PairingIn"];

const WORK_AFTER_MS = 120;
const MOST_CANDIDATES = 4;

/** What is turned and typed at the desk; gearboxes and axles are looked up by their places in the lists. */
export interface Knobs {
  tyre_now: { text: string; rollout_mm: number | null; turns: number };
  tyre_planned: { text: string; rollout_mm: number | null; turns: number };
  now: Pairing;
  candidates: Pairing[];
  transfer: string;
  idle_rpm: number;
  redline_rpm: number;
  torque: { rpm: number; torque_nm: number }[];
  mass_kg: number;
  drag_area_m2: number;
  cruise_kmh: number;
  cruise_rpm_min: number;
  cruise_rpm_max: number;
  hold_grade_pct: number | null;
  start_grade_pct: number | null;
  crawl_kmh: number | null;
  top_kmh: number | null;
  upshift_rpm_min: number | null;
  weights: Record<string, number>;
  later: boolean;
  speedometer: { source: "prop" | "wheel"; factor_before: number; driven_teeth: number | null };
}

/** What to begin with: typical figures, each to be replaced by the vehicle's own. */
export function firstKnobs(desk: Desk): Knobs {
  const { engine, load, use, weights, speedometer } = desk.first;
  const end = (desk.axle === "front" ? desk.front : desk.rear) ?? desk.rear;
  const axle = desk.ratios.findIndex(
    (one) => one.pinion_teeth === end.pinion_teeth && one.ring_teeth === end.ring_teeth,
  );
  return {
    tyre_now: { text: end.tyre, rollout_mm: null, turns: 1 },
    tyre_planned: { text: "", rollout_mm: null, turns: 1 },
    now: {
      gearbox: Math.max(
        desk.gearboxes.findIndex((one) => one.code === desk.gearbox),
        0,
      ),
      axle: Math.max(axle, 0),
    },
    candidates: [],
    transfer: desk.transfer_case,
    idle_rpm: engine.idle_rpm,
    redline_rpm: engine.redline_rpm,
    torque: engine.torque.map((one) => ({ ...one })),
    mass_kg: load.mass_kg,
    drag_area_m2: load.drag_area_m2,
    cruise_kmh: use.cruise_kmh,
    cruise_rpm_min: use.cruise_rpm_min,
    cruise_rpm_max: use.cruise_rpm_max,
    hold_grade_pct: use.hold_grade_pct ?? null,
    start_grade_pct: use.start_grade_pct ?? null,
    crawl_kmh: use.crawl_kmh ?? null,
    top_kmh: use.top_kmh ?? null,
    upshift_rpm_min: use.upshift_rpm_min ?? null,
    weights: { ...weights },
    later: false,
    speedometer: { ...speedometer, driven_teeth: speedometer.driven_teeth ?? null },
  };
}

/** The desk's inputs as the server wants them. */
export function inputsFor(knobs: Knobs, desk: Desk): Inputs {
  const transfer = desk.transfer_cases.find((one) => one.code === knobs.transfer);
  return {
    tyre_now: knobs.tyre_now,
    tyre_planned: knobs.tyre_planned,
    gearboxes: desk.gearboxes.map((one) => ({
      name: one.name,
      gears: one.gears,
      transfer_high: transfer?.high ?? 1,
      transfer_low: transfer?.low ?? null,
    })),
    axles: desk.ratios.map((one) => ({
      pinion_teeth: one.pinion_teeth,
      ring_teeth: one.ring_teeth,
      ring_outer_diameter_mm: desk.ring_outer_diameter_mm,
      hub_ratio: 1,
      needs_carrier: one.needs_carrier,
      needs_thick_ring: one.needs_thick_ring,
    })),
    now: knobs.now,
    candidates: knobs.candidates,
    engine: { idle_rpm: knobs.idle_rpm, redline_rpm: knobs.redline_rpm, torque: knobs.torque },
    load: { ...desk.first.load, mass_kg: knobs.mass_kg, drag_area_m2: knobs.drag_area_m2 },
    use: {
      ...desk.first.use,
      cruise_kmh: knobs.cruise_kmh,
      cruise_rpm_min: knobs.cruise_rpm_min,
      cruise_rpm_max: knobs.cruise_rpm_max,
      hold_grade_pct: knobs.hold_grade_pct,
      start_grade_pct: knobs.start_grade_pct,
      crawl_kmh: knobs.crawl_kmh,
      upshift_rpm_min: knobs.upshift_rpm_min,
      top_kmh: knobs.top_kmh,
    },
    weights: { ...desk.first.weights, ...knobs.weights },
    speedometer: knobs.speedometer,
    grades_pct: desk.first.grades_pct,
  };
}

/** The ratio desk on the screen: every change is worked out anew a moment later; an older answer is never shown for newer knobs. */
export class RatioDesk {
  desk = $state.raw<Desk | null>(null);
  knobs = $state<Knobs | null>(null);
  answer = $state.raw<Answer | null>(null);
  /** the last whole answer; it stays while a field cannot be read */
  shown = $state.raw<Answer | null>(null);
  /** what the answer that is shown was worked out from */
  inputs = $state.raw<Inputs | null>(null);
  wrong = $state<string | null>(null);
  lost = $state(false);
  busy = $state(false);
  readonly workId: string;
  #keep: Pick<Storage, "getItem" | "setItem">;
  #timer: ReturnType<typeof setTimeout> | undefined;
  #asked = 0;
  #unanswered = new UnansweredIds();

  constructor(workId: string, keep: Pick<Storage, "getItem" | "setItem">) {
    this.workId = workId;
    this.#keep = keep;
  }

  async load(): Promise<void> {
    const answer = await ask(
      client.GET("/api/v1/work/{work_id}/ratio-desk", { params: { path: { work_id: this.workId } } }),
    );
    this.lost = answer.kind === "lost";
    if (answer.kind === "refused") this.wrong = sentence(answer);
    if (answer.kind !== "done") return;
    this.desk = answer.value;
    this.knobs ??= this.#kept(answer.value);
    this.follow();
  }

  /** Whether what is shown is older than what was typed. */
  readonly stale = $derived(this.wrong !== null || this.lost || this.answer !== this.shown);

  /** Work the knobs out, a moment after the hand rests. */
  follow(): void {
    if (this.desk === null || this.knobs === null) return;
    const inputs = inputsFor($state.snapshot(this.knobs) as Knobs, this.desk);
    this.#keep.setItem(this.#key, JSON.stringify($state.snapshot(this.knobs)));
    clearTimeout(this.#timer);
    const asked = ++this.#asked;
    this.#timer = setTimeout(async () => {
      const answer = await ask(client.POST("/api/v1/ratio-work", { body: inputs }));
      if (asked !== this.#asked) return;
      this.lost = answer.kind === "lost";
      this.wrong = answer.kind === "refused" ? sentence(answer) : null;
      if (answer.kind !== "done") return;
      this.answer = answer.value;
      if (answer.value.compared === null) return;
      this.shown = answer.value;
      this.inputs = inputs;
    }, WORK_AFTER_MS);
  }

  stop(): void {
    clearTimeout(this.#timer);
    this.#asked += 1;
  }

  beside(pairing: Pairing): void {
    if (this.knobs === null || this.knobs.candidates.length >= MOST_CANDIDATES) return;
    this.knobs.candidates = [...this.knobs.candidates, pairing];
  }

  isBeside(pairing: Pairing): boolean {
    return (
      this.knobs?.candidates.some((one) => one.axle === pairing.axle && one.gearbox === pairing.gearbox) ??
      false
    );
  }

  /** Keep what is shown on the job; null when it was kept, else the sentence. */
  async keep(title: string): Promise<string | null> {
    if (this.desk === null || this.knobs === null) return "Nothing is calculated yet.";
    const body = { title, inputs: inputsFor($state.snapshot(this.knobs) as Knobs, this.desk) };
    return this.#write(body, (written) =>
      client.POST("/api/v1/work/{work_id}/ratio-results", {
        params: { path: { work_id: this.workId } },
        body: written,
      }),
    );
  }

  /** What is known of one end of the vehicle; null when it was kept, else the sentence. */
  async tellEnd(fact: Unwritten<Schemas["AxleFactIn"]>): Promise<string | null> {
    return this.#write(fact, (written) =>
      client.POST("/api/v1/jobs/{job_id}/axle-facts", {
        params: { path: { job_id: this.desk?.job_id ?? this.workId } },
        body: written,
      }),
    );
  }

  /** A gearing of a saved answer is what was fitted; null when it is on the vehicle, else the sentence. */
  async fitted(result_id: string, gearing: number): Promise<string | null> {
    return this.#write({ gearing }, (written) =>
      client.POST("/api/v1/ratio-results/{result_id}/fitted", {
        params: { path: { result_id } },
        body: written,
      }),
    );
  }

  /** The gearbox and transfer case that are in, on the vehicle's record; null when they are, else the sentence. */
  async fit(): Promise<string | null> {
    if (this.desk === null || this.knobs === null) return "Nothing is calculated yet.";
    const desk = this.desk;
    const fitted = {
      version: desk.vehicle_version,
      gearbox: desk.gearboxes[this.knobs.now.gearbox]?.code ?? "",
      transfer_case: this.knobs.transfer,
    };
    return this.#write(fitted, (written) =>
      client.PATCH("/api/v1/vehicles/{vehicle_id}", {
        params: { path: { vehicle_id: desk.vehicle_id } },
        body: written,
      }),
    );
  }

  /** One write that changes the desk, which is read again after it. */
  async #write<Body extends object>(
    body: Body,
    call: Parameters<typeof sendOnce<Body>>[2],
  ): Promise<string | null> {
    this.busy = true;
    const wrong = await sendOnce(this.#unanswered, body, call);
    this.busy = false;
    if (wrong === null) await this.load();
    return wrong;
  }

  get #key(): string {
    return `amber.ratio.${this.workId}`;
  }

  /** What was turned here before, as far as it still fits the lists. */
  #kept(desk: Desk): Knobs {
    const first = firstKnobs(desk);
    try {
      const found = JSON.parse(this.#keep.getItem(this.#key) ?? "null") as Partial<Knobs> | null;
      if (found === null || typeof found !== "object") return first;
      const fits = (one: Pairing | undefined) =>
        one !== undefined && one.gearbox < desk.gearboxes.length && one.axle < desk.ratios.length;
      const merged = { ...first, ...found };
      return {
        ...merged,
        now: fits(found.now) ? merged.now : first.now,
        candidates: (found.candidates ?? []).filter(fits),
      };
    } catch {
      return first; // somebody else wrote there
    }
  }
}
