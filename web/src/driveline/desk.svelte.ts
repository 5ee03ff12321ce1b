import { ask, client, sentence, type Schemas } from "../api/client";
import type { Unwritten } from "../lib/envelope";
import { UnansweredIds } from "../lib/ids";
import { sendOnce } from "../lib/writes";

export type Inputs = Schemas["DrivelineInputs"];
export type DrivelineAnswer = Schemas["DrivelineAnswer"];
export type ChainEnd = "rear" | "front";
type Desk = Schemas["DrivelineDeskOut"];
type Bounds = [number, number];

const WORK_AFTER_MS = 120;
const MOST_SHAFTS = 3;

/** What may be changed when a remedy is looked for, and how far. */
export interface MayChange {
  wedge: boolean;
  shim: boolean;
  mount: boolean;
  clock: boolean;
  wedge_deg: Bounds;
  shim_mm: Bounds;
  mount_mm: Bounds;
}

export const MAY_CHANGE: MayChange = {
  wedge: true,
  shim: true,
  mount: false,
  clock: true,
  wedge_deg: [-6, 6],
  shim_mm: [-20, 20],
  mount_mm: [-20, 20],
};

/** The bounds as the server wants them; only what this driveline has. */
export function freeFor(may: MayChange, inputs: Inputs): Schemas["Free"] {
  const shafts = inputs.readings.shafts.length;
  const clocked = inputs.readings.shafts
    .map((_, index) => index)
    .filter((index) => typeof inputs.teeth?.[index] === "number");
  const clock = Object.fromEntries(clocked.map((index) => [String(index + 1), [-45, 45]]));
  return {
    wedge_deg: may.wedge ? may.wedge_deg : null,
    shim_mm: may.shim && shafts > 1 ? may.shim_mm : null,
    mount_mm: may.mount && inputs.readings.mount ? may.mount_mm : null,
    clock_deg: may.clock && clocked.length > 0 ? clock : null,
  };
}

/** Settings of a plan as they are tried; a yoke that the plan leaves stands as it stands now, [deg]. */
export function triedFor(settings: Record<string, number>, clocks: number[]): Schemas["SettingsIn"] {
  return {
    wedge_deg: settings.wedge_deg ?? 0,
    shim_mm: settings.shim_mm ?? 0,
    mount_mm: settings.mount_mm ?? 0,
    clock_deg: clocks.map((now, index) => settings[`clock_shaft_${index + 1}`] ?? now),
  };
}

/** As many shafts as wanted: new ones like the last, with a joint more each. */
export function withShafts(inputs: Inputs, count: number): Inputs {
  const { shafts, joints } = inputs.readings;
  const last = shafts.at(-1);
  if (last === undefined || count < 1 || count > MOST_SHAFTS) return inputs;
  const copies = Array.from({ length: count }, (_, index) => shafts[index] ?? { ...structuredClone(last) });
  const kinds = joints ?? shafts.concat(last).map(() => "cardan" as const);
  return {
    ...inputs,
    teeth: copies.map((_, index) => inputs.teeth?.[index] ?? null),
    set_over: copies.map((_, index) => inputs.set_over?.[index] ?? null),
    tried: null,
    readings: {
      ...inputs.readings,
      points_mm: null,
      shafts: copies.map((one, index) => ({
        ...one,
        bearing_from_front_mm: index < count - 1 ? (one.bearing_from_front_mm ?? null) : null,
      })),
      joints: Array.from({ length: count + 1 }, (_, index) => kinds[index] ?? "cardan"),
      front_share: null,
    },
  };
}

/** The driveline desk on the screen: every change is worked out anew a moment later; an older answer is never shown for newer inputs. */
export class DrivelineDesk {
  desk = $state.raw<Desk | null>(null);
  chain = $state<ChainEnd>("rear");
  inputs = $state<Inputs | null>(null);
  answer = $state.raw<DrivelineAnswer | null>(null);
  recommended = $state.raw<Schemas["Recommended"] | null>(null);
  may = $state<MayChange>({ ...MAY_CHANGE });
  /** nothing was typed yet: the figures are samples */
  untouched = $state(true);
  wrong = $state<string | null>(null);
  field = $state("");
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

  /** How every rear yoke stands to its front yoke, degrees and set-over teeth together, [deg]. */
  get clocks(): number[] {
    const typed = this.inputs?.readings.shafts.map((one) => one.clock_deg) ?? [];
    return typed.map((degrees, index) => this.answer?.read.vehicle.clock_deg?.[index] ?? degrees);
  }

  async load(): Promise<void> {
    const answer = await ask(
      client.GET("/api/v1/work/{work_id}/driveline-desk", { params: { path: { work_id: this.workId } } }),
    );
    this.lost = answer.kind === "lost";
    if (answer.kind === "refused") this.wrong = sentence(answer);
    if (answer.kind !== "done") return;
    this.desk = answer.value;
    if (this.inputs === null) await this.show(this.chain);
  }

  /** One of the vehicle's drivelines: as it was typed here, else as it was last kept, else sample figures. */
  async show(chain: ChainEnd): Promise<void> {
    if (this.desk === null) return;
    this.chain = chain;
    this.recommended = null;
    this.answer = null;
    const kept = this.#kept(chain) ?? (await this.#last(chain));
    if (this.chain !== chain) return; // another was asked for meanwhile
    this.untouched = kept === null;
    this.inputs = kept ?? this.#first(chain);
    this.follow();
  }

  /** Begin anew with what a kept result was worked out from. */
  take(inputs: Inputs): void {
    this.chain = inputs.readings.chain;
    this.recommended = null;
    this.inputs = structuredClone(inputs);
    this.changed();
  }

  /** Change the inputs, then work them out anew. */
  set(change: () => void): void {
    change();
    this.changed();
  }

  /** Something was typed or dragged. */
  changed(): void {
    if (this.inputs === null) return;
    this.untouched = false;
    this.#keep.setItem(this.#key(this.chain), JSON.stringify($state.snapshot(this.inputs)));
    this.follow();
  }

  shafts(count: number): void {
    if (this.inputs === null) return;
    this.inputs = withShafts($state.snapshot(this.inputs) as Inputs, count);
    this.recommended = null;
    this.changed();
  }

  /** A joint was dragged to a place; from then on the joints' centres count, not the shafts' readings. */
  drag(joint: number, place: [number, number, number]): void {
    if (this.inputs === null || this.answer === null) return;
    const points = this.inputs.readings.points_mm ?? this.answer.read.points_mm;
    this.inputs.readings.points_mm = points.map((one, index) => (index === joint ? place : [...one]));
    this.changed();
  }

  follow(): void {
    if (this.inputs === null) return;
    const body = $state.snapshot(this.inputs) as Inputs;
    clearTimeout(this.#timer);
    const asked = ++this.#asked;
    this.#timer = setTimeout(async () => {
      const answer = await ask(client.POST("/api/v1/driveline-work", { body }));
      if (asked !== this.#asked) return;
      this.lost = answer.kind === "lost";
      this.wrong = answer.kind === "refused" ? sentence(answer) : null;
      this.field = answer.kind === "refused" ? answer.refused.field : "";
      if (answer.kind === "done") this.answer = answer.value;
    }, WORK_AFTER_MS);
  }

  /** The way to the server is open again. */
  async again(): Promise<void> {
    await this.load();
    if (!this.lost) this.follow();
  }

  stop(): void {
    clearTimeout(this.#timer);
    this.#asked += 1;
  }

  /** Look for the smallest set of changes; null when it was found, else the sentence. */
  async find(): Promise<string | null> {
    if (this.inputs === null) return "Nothing is calculated yet.";
    const inputs = $state.snapshot(this.inputs) as Inputs;
    this.busy = true;
    const other = await this.#other();
    const answer = await ask(
      client.POST("/api/v1/driveline-remedies", {
        body: {
          inputs: { ...inputs, tried: null },
          free: freeFor($state.snapshot(this.may) as MayChange, inputs),
          objective: "rms",
          front: other === null ? null : { ...other, tried: null },
        },
      }),
    );
    this.busy = false;
    if (answer.kind !== "done") return sentence(answer);
    this.recommended = answer.value.recommended;
    return null;
  }

  /** The other driveline of the transfer case, as far as anybody measured it. */
  async #other(): Promise<Inputs | null> {
    if (!this.desk?.first_front) return null;
    const chain = this.chain === "rear" ? "front" : "rear";
    return this.#kept(chain) ?? (await this.#last(chain));
  }

  tryPlan(): void {
    const plan = this.recommended?.plan;
    if (this.inputs === null || !plan) return;
    this.inputs.tried = triedFor(plan.settings, this.clocks);
    this.changed();
  }

  leave(): void {
    if (this.inputs === null) return;
    this.inputs.tried = null;
    this.changed();
  }

  /** Keep what is shown on the job; null when it was kept, else the sentence. */
  async keep(title: string): Promise<string | null> {
    if (this.inputs === null) return "Nothing is calculated yet.";
    const body = { title, inputs: $state.snapshot(this.inputs) as Inputs };
    return this.#write(body, (written) =>
      client.POST("/api/v1/work/{work_id}/driveline-results", {
        params: { path: { work_id: this.workId } },
        body: written,
      }),
    );
  }

  /** A joint that was felt and looked at; null when it was kept, else the sentence. */
  async inspect(body: Unwritten<Schemas["InspectionIn"]>): Promise<string | null> {
    return this.#write(body, (written) =>
      client.POST("/api/v1/work/{work_id}/joint-inspections", {
        params: { path: { work_id: this.workId } },
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

  #key(chain: ChainEnd): string {
    return `amber.driveline.${this.workId}.${chain}`;
  }

  #first(chain: ChainEnd): Inputs | null {
    const first = chain === "rear" ? this.desk?.first_rear : this.desk?.first_front;
    return first ? structuredClone(first) : null;
  }

  async #last(chain: ChainEnd): Promise<Inputs | null> {
    const last = this.desk?.results.filter((one) => one.shaft === chain).at(-1);
    if (!last) return null;
    const answer = await ask(
      client.GET("/api/v1/driveline-results/{result_id}", { params: { path: { result_id: last.id } } }),
    );
    return answer.kind === "done" ? answer.value.inputs : null;
  }

  /** What was typed here before, when it still has the shape of this version. */
  #kept(chain: ChainEnd): Inputs | null {
    try {
      const found = JSON.parse(this.#keep.getItem(this.#key(chain)) ?? "null") as Partial<Inputs> | null;
      const first = this.#first(chain);
      if (found === null || first === null || !Array.isArray(found.readings?.shafts)) return null;
      return { ...first, ...found };
    } catch {
      return null; // somebody else wrote there
    }
  }
}
