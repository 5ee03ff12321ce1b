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
import type { Envelope, Unwritten } from "../lib/envelope";
import { isAnswer, UnansweredIds } from "../lib/ids";
import { digest } from "../lib/photo";
import { writeOnce } from "../lib/writes";
import { Outbox, type Aside, type Sent, type Waiting } from "./outbox";

const RETRY_MS = 2500;
/** A reading that makes the server stumble this often no longer keeps the others back; it is set aside when they get through and it still does not. */
const MOST_STUMBLES = 4;
const MISTYPED_WITHIN_MS = 10_000;

const ADVICE_AFTER_MS = 250;

/** A reading that is possible but unlikely, and what the server asks about it. */
export interface Doubtful {
  waiting: Waiting;
  question: Question;
}

/** An answer that was given: the reading it made, what it was said to be, and the reading as it was typed. */
export interface Answered {
  id: string;
  kind: "recorded" | "discarded";
  said: string;
  waiting: Waiting;
}

/** What goes into the housing; the id and the trial it follows are added here. */
export type TrialTyped = Partial<Omit<Unwritten<Schemas["TrialIn"]>, "after">>;
type Typed<Name extends keyof Schemas> = Unwritten<Schemas[Name]>;
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
  /** What was typed last is not on this device's disk yet. */
  saving = $state(false);
  wrong = $state<string | null>(null);
  /** Readings that the server asks about before it takes them; they wait beside the strip, and others go on. */
  doubtful = $state.raw<Doubtful[]>([]);
  /** What was answered last, to be said and taken back. */
  answered = $state.raw<Answered | null>(null);
  /** Text that the server refused; it stands in the strip again. */
  refusedText = $state<string | null>(null);
  picked = $state<number | null>(null);
  busy = $state(false);
  /** What to do next; it follows the bench a moment later. */
  advice = $state.raw<Advice | null>(null);
  thinking = $state(false);
  readonly workId: string;
  /** Readings that the server will not take, each with its sentence. */
  aside = $state.raw<Aside[]>([]);
  /** Why readings of somebody else wait on this device. */
  held = $state<string | null>(null);
  /** How often a bench was shown. */
  #shown = 0;
  /** Readings that the server stumbled over: how often, and how many it had taken until it was passed by. */
  #stumbles: Record<string, { times: number; taken: number }> = {};
  #taken = 0;
  #outbox: Outbox;
  #sending = false;
  #saved = 0;
  #timer: ReturnType<typeof setTimeout> | undefined;
  /** When this screen's last reading was taken, by the clock that nobody sets. */
  #lastTaken: { id: string; at: number } | null = null;
  #unanswered = new UnansweredIds();
  #adviceTimer: ReturnType<typeof setTimeout> | undefined;
  #adviceAsked = 0;

  readonly trial = $derived<Trial | null>(this.bench?.trials.at(-1) ?? null);
  readonly live = $derived(this.trial?.readings.filter((reading) => reading.struck === null) ?? []);
  readonly mine = $derived(this.waiting.filter((one) => one.trial_id === this.trial?.id));
  /** The doubtful reading whose answer is due. */
  readonly asked = $derived<Doubtful | null>(this.doubtful[0] ?? null);
  readonly read = $derived([
    ...this.live.map((one) => one.angle_deg),
    ...this.mine.map((one) => one.angle_deg),
  ]);
  /** How many times round the ring is asked for. */
  rounds = $state(1);
  /** The position asked for next: the picked one, else the first that was read less often. */
  readonly position = $derived(
    this.picked ?? this.bench?.positions_deg.find((angle) => this.#times(angle) < this.rounds) ?? null,
  );

  /** How many positions were read this time round. */
  readonly readThisRound = $derived(
    this.read.filter((angle, at) => this.read.indexOf(angle) === at && this.#times(angle) >= this.rounds)
      .length,
  );

  constructor(workId: string, outbox: Outbox) {
    this.workId = workId;
    this.#outbox = outbox;
    this.#look();
    void this.#save();
  }

  async load(): Promise<void> {
    const shown = this.#shown;
    const answer = await ask(client.GET("/api/v1/work/{work_id}/bench", { params: this.#work }));
    // a write that was answered meanwhile has shown a newer bench than this one
    if (answer.kind !== "done" || this.#shown === shown) this.#took(answer);
    void this.send();
  }

  /** Take what was typed for the position asked for; it is kept at once and sent when it can be. */
  take(typed: string): void {
    if (this.trial === null || this.position === null || typed.trim() === "") return;
    this.wrong = null;
    this.#outbox.add({ trial_id: this.trial.id, angle_deg: this.position, typed, sure: false });
    this.picked = null;
    this.answered = null;
    this.#look();
    void this.#save();
    void this.send();
  }

  /** One of the meanings of the reading that is asked about. */
  answer(choice: Question["choices"][number]): void {
    const about = this.asked;
    if (about === null) return;
    const id = this.#outbox.change(about.waiting.client_id, choice.typed, choice.sure);
    this.#settle(about, { id, kind: "recorded", said: choice.label });
  }

  /** None of the meanings: the reading is not recorded, and its position is asked for again. */
  discard(): void {
    const about = this.asked;
    if (about === null) return;
    this.#outbox.drop(about.waiting.client_id);
    this.picked = about.waiting.angle_deg;
    this.#settle(about, { id: about.waiting.client_id, kind: "discarded", said: about.waiting.typed });
  }

  #settle(about: Doubtful, done: Omit<Answered, "waiting">): void {
    this.doubtful = this.doubtful.filter((one) => one !== about);
    this.answered = { ...done, waiting: about.waiting };
    this.#look();
    void this.#save();
    void this.send();
  }

  /** Take the last answer back: what was recorded is struck out, and the reading is asked about again. */
  async takeBackAnswer(): Promise<void> {
    const last = this.answered;
    if (last === null) return;
    this.answered = null;
    const stored = this.live.find((one) => one.id === last.id);
    if (stored !== undefined && !(await this.strike(stored, "mistyped"))) return;
    this.#outbox.drop(last.id);
    const { trial_id, angle_deg, typed } = last.waiting;
    this.#outbox.add({ trial_id, angle_deg, typed, sure: false });
    this.picked = null;
    this.#look();
    void this.#save();
    void this.send();
  }

  async send(): Promise<void> {
    if (this.#sending) return;
    this.#sending = true;
    clearTimeout(this.#timer);
    this.held = null;
    // what is asked about waits for its answer, and what follows goes on
    const passedBy = this.doubtful.map((one) => one.waiting.client_id);
    const upcoming = () => this.#outbox.all().find((one) => !passedBy.includes(one.client_id));
    for (let next = upcoming(); next !== undefined; next = upcoming()) {
      const alone = this.#outbox.all().length === 1;
      const sent = await this.#sendOne(next);
      if (sent.kind === "taken") this.#outbox.drop(next.client_id);
      if (sent.kind === "refused") this.#refuse(next, sent.text, alone);
      if (sent.kind === "spoilt") this.#outbox.setAside(next, sent.text);
      if (sent.kind === "passed by") {
        passedBy.push(next.client_id);
        this.#sendLater();
      }
      if (sent.kind === "held") {
        // it is another person's: it waits for them, and what follows goes on
        this.held = sent.text;
        passedBy.push(next.client_id);
      }
      if (sent.kind === "asked") {
        this.doubtful = [...this.doubtful, { waiting: next, question: sent.question }];
        passedBy.push(next.client_id);
      }
      this.#look();
      if (sent.kind === "lost" || sent.kind === "stumbled") {
        this.#sendLater();
        break;
      }
    }
    this.#sending = false;
  }

  #sendLater(): void {
    clearTimeout(this.#timer);
    this.#timer = setTimeout(() => void this.send(), RETRY_MS);
  }

  /** Type a reading again that was set aside. */
  retypeAside(one: Aside): void {
    this.#outbox.dropAside(one.waiting.client_id);
    this.refusedText = one.waiting.typed;
    this.picked = one.waiting.angle_deg;
    this.#look();
  }

  dropAside(one: Aside): void {
    this.#outbox.dropAside(one.waiting.client_id);
    this.#look();
  }

  /** The one that was just typed goes back into the strip; one of several is set aside, so that none is lost. */
  #refuse(one: Waiting, text: string, alone: boolean): void {
    if (alone) {
      this.wrong = text;
      this.#giveBack(one);
    } else this.#outbox.setAside(one, text);
  }

  #look(): void {
    this.waiting = this.#outbox.all();
    this.aside = this.#outbox.aside();
  }

  /** Until the disk has what waits, it is said to be on its way there; what a slow disk gives back late goes out too. */
  async #save(): Promise<void> {
    const mark = ++this.#saved;
    this.saving = true;
    await this.#outbox.settled();
    if (mark !== this.#saved) return;
    this.saving = false;
    if (this.#outbox.all().length === this.waiting.length) return;
    this.#look();
    void this.send();
  }

  stop(): void {
    clearTimeout(this.#timer);
    clearTimeout(this.#adviceTimer);
    this.#adviceAsked += 1;
    this.#saved += 1; // a page that was left sends nothing late
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
    const path = { reading_id: reading.id };
    const answer = await writeOnce(this.#unanswered, `strike ${reading.id}`, { reason }, (body) =>
      client.POST("/api/v1/readings/{reading_id}/strike-out", { params: { path }, body }),
    );
    this.#took(answer);
    if (answer.kind === "done") this.picked = reading.angle_deg;
    return answer.kind === "done";
  }

  async begin(typed: TrialTyped): Promise<boolean> {
    const after = this.trial?.number ?? 0;
    const answer = await this.#write({ ...BARE, ...typed, after }, `trial ${after}`, (body) =>
      client.POST("/api/v1/work/{work_id}/trials", { params: this.#work, body }),
    );
    if (answer.kind === "refused" && answer.status === 409) await this.load();
    this.wrong = answer.kind === "done" ? null : sentence(answer);
    this.picked = null;
    this.rounds = 1;
    return answer.kind === "done";
  }

  /** Ask for every position once more; one that has more readings already is passed over. */
  roundAgain(): void {
    this.rounds = 1 + Math.min(...(this.bench?.positions_deg ?? []).map((angle) => this.#times(angle)));
    this.picked = null;
  }

  #times(angle: number): number {
    return this.read.filter((one) => one === angle).length;
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
      client.POST("/api/v1/work/{work_id}/basis", { params: this.#work, body }),
    );
  }

  takeSleeveStep(step: Typed<"SleeveStepIn">): Promise<string | null> {
    return this.#kept(step, "sleeve", (body) =>
      client.POST("/api/v1/work/{work_id}/sleeve-steps", { params: this.#work, body }),
    );
  }

  takeBackSleeveStep(step_id: string, reason: string): Promise<string | null> {
    return this.#kept({ reason }, `sleeve back ${step_id}`, (body) =>
      client.POST("/api/v1/work/{work_id}/sleeve-steps/{step_id}/take-back", {
        params: { path: { work_id: this.workId, step_id } },
        body,
      }),
    );
  }

  takeSpacerTry(spacer: Typed<"SpacerTryIn">): Promise<string | null> {
    return this.#kept(spacer, "spacer", (body) =>
      client.POST("/api/v1/work/{work_id}/spacer-tries", { params: this.#work, body }),
    );
  }

  checkInstrument(check: Typed<"InstrumentCheckIn">): Promise<string | null> {
    return this.#kept(check, "instrument", (body) =>
      client.POST("/api/v1/work/{work_id}/instrument-checks", { params: this.#work, body }),
    );
  }

  async addPhoto(trial_id: string, flank: Flank, file: Blob): Promise<Answer<{ id: string }>> {
    // the same picture sent again after a lost answer is the same write
    const key = `photo ${trial_id} ${flank} ${file.size} ${await digest(file)}`;
    const fields = { flank, ...this.#unanswered.envelope(key) };
    const answer = await ask(
      client.POST("/api/v1/trials/{trial_id}/photos", {
        params: { path: { trial_id } },
        body: { ...fields, file: "" },
        bodySerializer: () => upload(file, fields),
      }),
    );
    this.#unanswered.answered(key, answer);
    return answer;
  }

  /** What a patch would say, while it is drawn; null while nobody knows. */
  async preview(patch: Schemas["PatchIn"]): Promise<Preview | null> {
    const answer = await ask(
      client.POST("/api/v1/work/{work_id}/patch-preview", { params: this.#work, body: patch }),
    );
    return answer.kind === "done" ? answer.value : null;
  }

  /** The patterns at a place of the map; without one, where the last trial is thought to stand. */
  async contact(place: { pinion_mm: number; ring_mm: number } | null): Promise<Contact | null> {
    const answer = await ask(
      client.GET("/api/v1/work/{work_id}/contact", { params: { ...this.#work, query: place ?? {} } }),
    );
    return answer.kind === "done" ? answer.value : null;
  }

  get #work() {
    return { path: { work_id: this.workId } };
  }

  /** One write that answers with the bench; the same content sent again goes in the same envelope. */
  async #write<Body extends object>(
    body: Body,
    what: string,
    call: (body: Body & Envelope) => Written<Bench>,
  ): Promise<Answer<Bench>> {
    this.busy = true;
    const answer = await writeOnce(this.#unanswered, what, body, call);
    this.busy = false;
    this.lost = answer.kind === "lost";
    if (answer.kind === "done") this.#show(answer.value);
    return answer;
  }

  /** The sentence when it was not kept, for the form that asked; null when it was. */
  async #kept<Body extends object>(
    body: Body,
    what: string,
    call: (body: Body & Envelope) => Written<Bench>,
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
      const answer = await ask(client.GET("/api/v1/work/{work_id}/advice", { params: this.#work }));
      if (asked !== this.#adviceAsked) return; // the bench has changed since
      this.thinking = false;
      if (answer.kind === "done") this.advice = answer.value;
    }, ADVICE_AFTER_MS);
  }

  async #sendOne(one: Waiting): Promise<Sent> {
    const { trial_id, ...body } = one;
    const answer = await ask(
      client.POST("/api/v1/trials/{trial_id}/readings", { params: { path: { trial_id } }, body }),
    );
    if (answer.kind === "done") {
      this.#show(answer.value);
      this.lost = false;
      this.#taken += 1;
      this.#lastTaken = { id: one.client_id, at: performance.now() };
      return { kind: "taken" };
    }
    this.lost = answer.kind === "lost";
    if (answer.kind === "lost") return { kind: "lost" };
    // an ended login, or a server that stumbled, is no verdict on the reading: it waits
    if (answer.refused.code === "stale_page") return { kind: "held", text: answer.refused.message };
    if (!isAnswer(answer)) return this.#stumbled(one, answer.status);
    if (answer.refused.code === "other_person") return { kind: "held", text: answer.refused.message };
    if (answer.refused.question !== null) return { kind: "asked", question: answer.refused.question };
    return { kind: "refused", text: answer.refused.message };
  }

  #stumbled(one: Waiting, status: number): Sent {
    // only 500 says anything of this reading; 502 to 504 say that nobody was there, for however long that is
    if (status !== 500) return { kind: "stumbled" };
    const before = this.#stumbles[one.client_id];
    const times = (before?.times ?? 0) + 1;
    const taken = before !== undefined && times > MOST_STUMBLES ? before.taken : this.#taken;
    this.#stumbles[one.client_id] = { times, taken };
    if (times < MOST_STUMBLES) return { kind: "stumbled" };
    // a server that stumbles over everything says nothing of this one
    if (taken === this.#taken) return { kind: "passed by" };
    return { kind: "spoilt", text: "The server could not store this reading, however often it was sent." };
  }

  #giveBack(one: Waiting): void {
    this.#outbox.drop(one.client_id);
    this.#look();
    this.refusedText = one.typed;
    this.picked = one.angle_deg;
  }

  #took(answer: Answer<Bench>): void {
    this.lost = answer.kind === "lost";
    this.wrong = answer.kind === "refused" ? sentence(answer) : null;
    if (answer.kind === "done") this.#show(answer.value);
  }

  #show(bench: Bench): void {
    this.#shown += 1;
    const same = JSON.stringify(bench) === JSON.stringify(this.bench);
    this.bench = bench;
    if (!same || this.advice === null) this.#follow();
  }
}
