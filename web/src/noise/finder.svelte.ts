import { ask, client, sentence, upload, type Answer, type Schemas } from "../api/client";
import { UnansweredIds } from "../lib/ids";
import { sendOnce } from "../lib/writes";

type Desk = Schemas["NoiseDeskOut"];
export type FeltQuestion = Schemas["FeltQuestion"];
export type Recording = Schemas["RecordingOut"];
export type RecordedAnswer = Schemas["RecordedAnswer"];

const WORK_AFTER_MS = 150;
const LOOK_AFTER_MS = 700;

/** The noise finder on the screen: what is felt is ranked anew with every change; a recording is watched until it is read. */
export class NoiseFinder {
  desk = $state.raw<Desk | null>(null);
  felt = $state<FeltQuestion | null>(null);
  answer = $state.raw<Schemas["Felt"] | null>(null);
  run = $state<Schemas["RunIn"] | null>(null);
  picked = $state<string | null>(null);
  recorded = $state.raw<RecordedAnswer | null>(null);
  /** of the recorded drive */
  gear_ratio = $state<number | null>(1);
  made = $state<string[]>([]);
  wrong = $state<string | null>(null);
  lost = $state(false);
  busy = $state(false);
  readonly workId: string;
  #keep: Pick<Storage, "getItem" | "setItem">;
  #timer: ReturnType<typeof setTimeout> | undefined;
  #watch: ReturnType<typeof setTimeout> | undefined;
  #asked = 0;
  #unanswered = new UnansweredIds();

  constructor(workId: string, keep: Pick<Storage, "getItem" | "setItem">) {
    this.workId = workId;
    this.#keep = keep;
  }

  get recording(): Recording | null {
    return this.desk?.recordings.find((one) => one.id === this.picked) ?? null;
  }

  async load(): Promise<void> {
    const answer = await ask(
      client.GET("/api/v1/work/{work_id}/noise-finder", { params: { path: { work_id: this.workId } } }),
    );
    this.lost = answer.kind === "lost";
    if (answer.kind === "refused") this.wrong = sentence(answer);
    if (answer.kind !== "done") return;
    this.desk = answer.value;
    this.run ??= structuredClone(answer.value.first_run);
    if (this.felt === null) {
      this.felt = this.#kept() ?? (await this.#last()) ?? structuredClone(answer.value.first);
      this.gear_ratio = this.felt.tests[0]?.gear_ratio ?? this.gear_ratio;
      this.follow();
    }
    if (this.picked === null) {
      const last = answer.value.recordings.at(-1);
      if (last) this.pick(last.id);
    }
    this.#watchReading();
  }

  /** Something was typed or ticked. */
  changed(): void {
    if (this.felt === null) return;
    this.#keep.setItem(this.#key, JSON.stringify($state.snapshot(this.felt)));
    this.follow();
  }

  follow(): void {
    if (this.felt === null) return;
    const felt = $state.snapshot(this.felt) as FeltQuestion;
    clearTimeout(this.#timer);
    const asked = ++this.#asked;
    this.#timer = setTimeout(async () => {
      const answer = await ask(client.POST("/api/v1/noise-felt", { body: { felt } }));
      if (asked !== this.#asked) return;
      this.lost = answer.kind === "lost";
      this.wrong = answer.kind === "refused" ? sentence(answer) : null;
      if (answer.kind === "done") this.answer = answer.value;
      await this.hold();
    }, WORK_AFTER_MS);
  }

  /** The way to the server is open again. */
  async again(): Promise<void> {
    await this.load();
    if (!this.lost) this.follow();
  }

  stop(): void {
    clearTimeout(this.#timer);
    clearTimeout(this.#watch);
    this.#asked += 1;
  }

  /** A check was made: what it did is counted from now on. */
  outcome(code: string, result: "changed" | "stayed"): void {
    if (this.felt === null) return;
    const others = (this.felt.outcomes ?? []).filter((one) => one.code !== code);
    this.felt.outcomes = [...others, { code, result }];
    this.changed();
  }

  takeBack(code: string): void {
    if (this.felt === null) return;
    this.felt.outcomes = (this.felt.outcomes ?? []).filter((one) => one.code !== code);
    this.changed();
  }

  pick(id: string): void {
    this.picked = id;
    this.recorded = null;
    void this.hold();
  }

  /** Hold the picked recording against the drivetrain. */
  async hold(): Promise<void> {
    const recording = this.recording;
    if (recording?.state !== "done" || this.felt === null) return;
    const answer = await ask(client.POST("/api/v1/noise-recorded", { body: this.#inputs(recording.id) }));
    if (this.picked !== recording.id) return;
    if (answer.kind === "done") this.recorded = answer.value;
    else this.wrong = sentence(answer);
  }

  #inputs(recording: string): Schemas["RecordedInputs"] {
    const drivetrain = $state.snapshot(this.felt?.drivetrain) as Schemas["Drivetrain"];
    return { recording, drivetrain, gear_ratio: this.gear_ratio, engine_rpm: null, made: [...this.made] };
  }

  /** Send a file; null when it was stored, else the sentence. */
  async send(file: File, from_kmh: number, to_kmh: number): Promise<string | null> {
    const key = `${file.name}/${file.size}/${file.lastModified}/${from_kmh}/${to_kmh}`;
    const fields = { ...this.#unanswered.envelope(key), from_kmh, to_kmh };
    this.busy = true;
    const answer = await ask(
      client.POST("/api/v1/work/{work_id}/recordings", {
        params: { path: { work_id: this.workId } },
        body: { ...fields, file: "" },
        bodySerializer: () => upload(file, fields),
      }),
    );
    this.busy = false;
    this.#unanswered.answered(key, answer);
    return this.#stored(answer);
  }

  /** Drive with the simulated recorder. */
  async simulate(): Promise<string | null> {
    if (this.run === null || this.felt === null) return null;
    const run = $state.snapshot(this.run) as Schemas["RunIn"];
    const drivetrain = $state.snapshot(this.felt.drivetrain) as Schemas["Drivetrain"];
    const key = JSON.stringify({ ...run, drivetrain });
    this.busy = true;
    const answer = await ask(
      client.POST("/api/v1/work/{work_id}/simulated-recordings", {
        params: { path: { work_id: this.workId } },
        body: { ...run, drivetrain, ...this.#unanswered.envelope(key) },
      }),
    );
    this.busy = false;
    this.#unanswered.answered(key, answer);
    if (answer.kind === "done") this.gear_ratio = run.gear_ratio;
    return this.#stored(answer);
  }

  async #stored(answer: Answer<Recording>): Promise<string | null> {
    if (answer.kind !== "done") return sentence(answer);
    this.picked = answer.value.id;
    this.recorded = null;
    await this.load();
    return null;
  }

  /** Have a recording read again; null when it waits to be, else the sentence. */
  async readAgain(id: string): Promise<string | null> {
    const wrong = await sendOnce(this.#unanswered, { again: id }, ({ again, ...envelope }) =>
      client.POST("/api/v1/recordings/{recording_id}/read-again", {
        params: { path: { recording_id: again } },
        body: envelope,
      }),
    );
    if (wrong === null) await this.#look(id);
    this.#watchReading();
    return wrong;
  }

  /** Look at what is not read yet until everything is; nothing else is asked for again. */
  #watchReading(): void {
    clearTimeout(this.#watch);
    const waiting = (this.desk?.recordings ?? []).filter(
      (one) => one.state === "queued" || one.state === "reading",
    );
    if (waiting.length === 0) {
      if (this.recorded === null) void this.hold();
      return;
    }
    this.#watch = setTimeout(() => {
      void Promise.all(waiting.map((one) => this.#look(one.id))).then(() => {
        if (!this.lost) this.#watchReading();
      });
    }, LOOK_AFTER_MS);
  }

  /** How far a recording is read now. */
  async #look(id: string): Promise<void> {
    const answer = await ask(
      client.GET("/api/v1/recordings/{recording_id}", { params: { path: { recording_id: id } } }),
    );
    this.lost = answer.kind === "lost";
    if (answer.kind !== "done" || this.desk === null) return;
    const now: Recording = answer.value;
    const recordings = this.desk.recordings.map((one) => (one.id === id ? now : one));
    this.desk = { ...this.desk, recordings };
  }

  /** Keep what is shown; null when it was kept, else the sentence. */
  async keep(title: string, kind: "felt" | "recorded"): Promise<string | null> {
    if (this.felt === null) return "Nothing is calculated yet.";
    const felt = kind === "felt" ? ($state.snapshot(this.felt) as FeltQuestion) : null;
    const recorded = kind === "recorded" && this.picked !== null ? this.#inputs(this.picked) : null;
    this.busy = true;
    const wrong = await sendOnce(this.#unanswered, { title, felt, recorded }, (body) =>
      client.POST("/api/v1/work/{work_id}/noise-findings", {
        params: { path: { work_id: this.workId } },
        body,
      }),
    );
    this.busy = false;
    if (wrong === null) await this.load();
    return wrong;
  }

  async #last(): Promise<FeltQuestion | null> {
    const last = this.desk?.findings.filter((one) => one.kind === "felt").at(-1);
    if (!last) return null;
    const answer = await ask(
      client.GET("/api/v1/noise-findings/{finding_id}", { params: { path: { finding_id: last.id } } }),
    );
    return answer.kind === "done" ? (answer.value.felt ?? null) : null;
  }

  get #key(): string {
    return `amber.noise.${this.workId}`;
  }

  #kept(): FeltQuestion | null {
    try {
      const found = JSON.parse(this.#keep.getItem(this.#key) ?? "null") as Partial<FeltQuestion> | null;
      return found?.drivetrain && Array.isArray(found.tests) && found.tests.length > 0
        ? (found as FeltQuestion)
        : null;
    } catch {
      return null; // somebody else wrote there
    }
  }
}
