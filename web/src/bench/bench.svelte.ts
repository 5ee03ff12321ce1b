import {
  ask,
  client,
  sentence,
  upload,
  type Advice,
  type Answer,
  type Bench,
  type Contact,
  type Flank,
  type Preview,
  type Question,
  type Reading,
  type Schemas,
  type Trial,
} from "../api/client";
import { newId, UnansweredIds } from "../lib/ids";
import { Outbox, type Sent, type Waiting } from "./outbox";

const RETRY_MS = 2500;
const MISTYPED_WITHIN_MS = 10_000;

const ADVICE_AFTER_MS = 250;

/** What goes into the housing; the id and the trial it follows are added here. */
export type TrialTyped = Partial<Omit<Schemas["TrialIn"], "client_id" | "after">>;
type Typed<Name extends keyof Schemas> = Omit<Schemas[Name], "client_id">;
const BARE = {
  preload_part: "nothing",
  bearings: "final",
  is_final: false,
  from_drawer: false,
  note: "",
} as const;
type Written<T> = Promise<{ data?: T | undefined; error?: unknown; response: Response }>;

/** The bench on the screen: what the server last said, the readings on their way, and the position asked for. */
export class BenchOnScreen {
  bench = $state.raw<Bench | null>(null);
  waiting = $state.raw<Waiting[]>([]);
  lost = $state(false);
  wrong = $state<string | null>(null);
  /** A reading that the server asks about before it takes it. */
  asked = $state.raw<{ waiting: Waiting; question: Question } | null>(null);
  /** Text that the server refused; it stands in the strip again. */
  refusedText = $state<string | null>(null);
  picked = $state<number | null>(null);
  busy = $state(false);
  /** What to do next; it follows the bench a moment later. */
  advice = $state.raw<Advice | null>(null);
  thinking = $state(false);
  readonly jobId: string;
  #outbox: Outbox;
  #sending = false;
  #timer: ReturnType<typeof setTimeout> | undefined;
  /** When this screen's last reading was taken, by the clock that nobody sets. */
  #lastTaken: { id: string; at: number } | null = null;
  #unanswered = new UnansweredIds();
  #adviceTimer: ReturnType<typeof setTimeout> | undefined;
  #adviceAsked = 0;

  readonly trial = $derived<Trial | null>(this.bench?.trials.at(-1) ?? null);
  readonly live = $derived(this.trial?.readings.filter((reading) => reading.struck === null) ?? []);
  readonly mine = $derived(this.waiting.filter((one) => one.trial_id === this.trial?.id));
  readonly read = $derived([
    ...this.live.map((one) => one.angle_deg),
    ...this.mine.map((one) => one.angle_deg),
  ]);
  /** The position asked for next: the picked one, else the first without a reading. */
  readonly position = $derived(
    this.asked?.waiting.angle_deg ??
      this.picked ??
      this.bench?.positions_deg.find((angle) => !this.read.includes(angle)) ??
      null,
  );

  constructor(jobId: string, outbox: Outbox) {
    this.jobId = jobId;
    this.#outbox = outbox;
    this.waiting = outbox.all();
  }

  async load(): Promise<void> {
    const answer = await ask(
      client.GET("/api/v1/jobs/{job_id}/bench", { params: { path: { job_id: this.jobId } } }),
    );
    this.#took(answer);
    void this.send();
  }

  /** Take what was typed for the position asked for; it is kept at once and sent when it can be. */
  take(typed: string): void {
    if (this.trial === null || this.position === null || typed.trim() === "") return;
    this.wrong = null;
    this.#outbox.add({ trial_id: this.trial.id, angle_deg: this.position, typed, sure: false });
    this.picked = null;
    this.waiting = this.#outbox.all();
    void this.send();
  }

  answer(choice: Question["choices"][number]): void {
    if (this.asked === null) return;
    this.#outbox.change(this.asked.waiting.client_id, choice.typed, choice.sure);
    this.asked = null;
    this.waiting = this.#outbox.all();
    void this.send();
  }

  /** None of the meanings: the text goes back into the strip. */
  retype(): void {
    if (this.asked === null) return;
    this.#giveBack(this.asked.waiting);
    this.asked = null;
    void this.send();
  }

  async send(): Promise<void> {
    if (this.#sending || this.asked !== null) return;
    this.#sending = true;
    clearTimeout(this.#timer);
    for (let next = this.#outbox.all()[0]; next !== undefined; next = this.#outbox.all()[0]) {
      const sent = await this.#sendOne(next);
      if (sent.kind === "taken") this.#outbox.drop(next.client_id);
      if (sent.kind === "refused") {
        this.wrong = sent.text;
        this.#giveBack(next);
      }
      if (sent.kind === "asked") this.asked = { waiting: next, question: sent.question };
      this.waiting = this.#outbox.all();
      if (sent.kind === "lost") this.#timer = setTimeout(() => void this.send(), RETRY_MS);
      if (sent.kind !== "taken" && sent.kind !== "refused") break;
    }
    this.#sending = false;
  }

  stop(): void {
    clearTimeout(this.#timer);
    clearTimeout(this.#adviceTimer);
    this.#adviceAsked += 1;
  }

  /** Backspace on an empty strip: the last reading; one taken here a moment ago needs no reason. */
  lastReading(): { reading: Reading; mistyped: boolean } | null {
    const reading = this.live.at(-1);
    if (reading === undefined) return null;
    const taken = this.#lastTaken;
    const mistyped = taken?.id === reading.id && performance.now() - taken.at < MISTYPED_WITHIN_MS;
    return { reading, mistyped };
  }

  async strike(reading: Reading, reason: string): Promise<boolean> {
    const client_id = this.#unanswered.idFor(`strike ${reading.id}`);
    const path = { reading_id: reading.id };
    const answer = await ask(
      client.POST("/api/v1/readings/{reading_id}/strike-out", {
        params: { path },
        body: { client_id, reason },
      }),
    );
    this.#unanswered.answered(`strike ${reading.id}`, answer.kind);
    this.#took(answer);
    if (answer.kind === "done") this.picked = reading.angle_deg;
    return answer.kind === "done";
  }

  async begin(typed: TrialTyped): Promise<boolean> {
    const after = this.trial?.number ?? 0;
    const answer = await this.#write({ ...BARE, ...typed, after }, `trial ${after}`, (body) =>
      client.POST("/api/v1/jobs/{job_id}/trials", { params: this.#job, body }),
    );
    if (answer.kind === "refused" && answer.status === 409) await this.load();
    this.wrong = answer.kind === "done" ? null : sentence(answer);
    this.picked = null;
    return answer.kind === "done";
  }

  /** The housing was looked at: readings count. */
  confirmConditions(trial_id: string): Promise<string | null> {
    return this.#kept({}, `conditions ${trial_id}`, (body) =>
      client.POST("/api/v1/trials/{trial_id}/conditions", { params: { path: { trial_id } }, body }),
    );
  }

  takePattern(trial_id: string, patch: Typed<"PatternIn">): Promise<string | null> {
    return this.#kept(patch, `pattern ${trial_id}`, (body) =>
      client.POST("/api/v1/trials/{trial_id}/patterns", { params: { path: { trial_id } }, body }),
    );
  }

  takeTorque(trial_id: string, torque: Typed<"TorqueIn">): Promise<string | null> {
    return this.#kept(torque, `torque ${trial_id}`, (body) =>
      client.POST("/api/v1/trials/{trial_id}/torques", { params: { path: { trial_id } }, body }),
    );
  }

  takeDepth(trial_id: string, depth: Typed<"DepthIn">): Promise<string | null> {
    return this.#kept(depth, `depth ${trial_id}`, (body) =>
      client.POST("/api/v1/trials/{trial_id}/depths", { params: { path: { trial_id } }, body }),
    );
  }

  setBasis(basis: Typed<"BasisIn">): Promise<string | null> {
    return this.#kept(basis, "basis", (body) =>
      client.POST("/api/v1/jobs/{job_id}/basis", { params: this.#job, body }),
    );
  }

  takeSleeveStep(step: Typed<"SleeveStepIn">): Promise<string | null> {
    return this.#kept(step, "sleeve", (body) =>
      client.POST("/api/v1/jobs/{job_id}/sleeve-steps", { params: this.#job, body }),
    );
  }

  takeBackSleeveStep(step_id: string, reason: string): Promise<string | null> {
    return this.#kept({ reason }, `sleeve back ${step_id}`, (body) =>
      client.POST("/api/v1/jobs/{job_id}/sleeve-steps/{step_id}/take-back", {
        params: { path: { job_id: this.jobId, step_id } },
        body,
      }),
    );
  }

  takeSpacerTry(spacer: Typed<"SpacerTryIn">): Promise<string | null> {
    return this.#kept(spacer, "spacer", (body) =>
      client.POST("/api/v1/jobs/{job_id}/spacer-tries", { params: this.#job, body }),
    );
  }

  checkInstrument(check: Typed<"InstrumentCheckIn">): Promise<string | null> {
    return this.#kept(check, "instrument", (body) =>
      client.POST("/api/v1/jobs/{job_id}/instrument-checks", { params: this.#job, body }),
    );
  }

  async addPhoto(trial_id: string, flank: Flank, file: Blob): Promise<Answer<{ id: string }>> {
    const fields = { client_id: newId(), flank };
    return ask(
      client.POST("/api/v1/trials/{trial_id}/photos", {
        params: { path: { trial_id } },
        body: { ...fields, file: "" },
        bodySerializer: () => upload(file, fields),
      }),
    );
  }

  /** What a patch would say, while it is drawn; null while nobody knows. */
  async preview(patch: Schemas["PatchIn"]): Promise<Preview | null> {
    const answer = await ask(
      client.POST("/api/v1/jobs/{job_id}/patch-preview", { params: this.#job, body: patch }),
    );
    return answer.kind === "done" ? answer.value : null;
  }

  /** The patterns at a place of the map; without one, where the last trial is thought to stand. */
  async contact(place: { pinion_mm: number; ring_mm: number } | null): Promise<Contact | null> {
    const answer = await ask(
      client.GET("/api/v1/jobs/{job_id}/contact", { params: { ...this.#job, query: place ?? {} } }),
    );
    return answer.kind === "done" ? answer.value : null;
  }

  get #job() {
    return { path: { job_id: this.jobId } };
  }

  /** One write that answers with the bench; the same content sent again carries the same id. */
  async #write<Body extends object>(
    body: Body,
    what: string,
    call: (body: Body & { client_id: string }) => Written<Bench>,
  ): Promise<Answer<Bench>> {
    const key = `${what} ${JSON.stringify(body)}`;
    this.busy = true;
    const answer = await ask(call({ ...body, client_id: this.#unanswered.idFor(key) }));
    this.busy = false;
    this.#unanswered.answered(key, answer.kind);
    this.lost = answer.kind === "lost";
    if (answer.kind === "done") this.#show(answer.value);
    return answer;
  }

  /** The sentence when it was not kept, for the form that asked; null when it was. */
  async #kept<Body extends object>(
    body: Body,
    what: string,
    call: (body: Body & { client_id: string }) => Written<Bench>,
  ): Promise<string | null> {
    const answer = await this.#write(body, what, call);
    return answer.kind === "done" ? null : sentence(answer);
  }

  /** Ask for the advice anew, a moment after the bench last changed. */
  #follow(): void {
    clearTimeout(this.#adviceTimer);
    const asked = ++this.#adviceAsked;
    this.thinking = true;
    this.#adviceTimer = setTimeout(async () => {
      const answer = await ask(client.GET("/api/v1/jobs/{job_id}/advice", { params: this.#job }));
      if (asked !== this.#adviceAsked) return; // the bench has changed since
      this.thinking = false;
      if (answer.kind === "done") this.advice = answer.value;
    }, ADVICE_AFTER_MS);
  }

  async #sendOne(one: Waiting): Promise<Sent> {
    const { client_id, angle_deg, typed, sure } = one;
    const answer = await ask(
      client.POST("/api/v1/trials/{trial_id}/readings", {
        params: { path: { trial_id: one.trial_id } },
        body: { client_id, angle_deg, typed, sure },
      }),
    );
    if (answer.kind === "done") {
      this.#show(answer.value);
      this.lost = false;
      this.#lastTaken = { id: client_id, at: performance.now() };
      return { kind: "taken" };
    }
    this.lost = answer.kind === "lost";
    // an ended login, or a server that stumbled, is no verdict on the reading: it waits
    if (answer.kind === "lost" || answer.status === 401 || answer.status >= 500) return { kind: "lost" };
    if (answer.refused.question !== null) return { kind: "asked", question: answer.refused.question };
    return { kind: "refused", text: answer.refused.message };
  }

  #giveBack(one: Waiting): void {
    this.#outbox.drop(one.client_id);
    this.waiting = this.#outbox.all();
    this.refusedText = one.typed;
    this.picked = one.angle_deg;
  }

  #took(answer: Answer<Bench>): void {
    this.lost = answer.kind === "lost";
    this.wrong = answer.kind === "refused" ? sentence(answer) : null;
    if (answer.kind === "done") this.#show(answer.value);
  }

  #show(bench: Bench): void {
    const same = JSON.stringify(bench) === JSON.stringify(this.bench);
    this.bench = bench;
    if (!same || this.advice === null) this.#follow();
  }
}
