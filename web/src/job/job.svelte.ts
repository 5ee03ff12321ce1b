import {
  ask,
  client,
  sentence,
  upload,
  type Answer,
  type Job,
  type Schemas,
  type Station,
  type Work,
} from "../api/client";
import type { Unwritten } from "../lib/envelope";
import { UnansweredIds } from "../lib/ids";
import { digest } from "../lib/photo";
import { writeOnce } from "../lib/writes";

type Call<T> = Parameters<typeof writeOnce<object, T>>[3];

/** One job on the screen with the piece of work in hand: what the server last said, and the writes made to them. */
export class JobOnScreen {
  job = $state.raw<Job | null>(null);
  work = $state.raw<Work | null>(null);
  wrong = $state<string | null>(null);
  busy = $state(false);
  /** The step whose write was refused, and why: some can be sent again with a word more. */
  refused = $state.raw<{ step: string; code: string } | null>(null);
  readonly id: string;
  /** Which piece of work was asked for; without one, the first that is not signed off. */
  readonly asked: string | null;
  #unanswered = new UnansweredIds();
  #unread: string | null = null;

  constructor(id: string, asked: string | null = null) {
    this.id = id;
    this.asked = asked;
  }

  get workId(): string {
    return this.work?.id ?? this.asked ?? this.id;
  }

  get #path() {
    return { params: { path: { job_id: this.id } } };
  }

  async load(): Promise<void> {
    await this.#loadJob();
    const works = this.job?.works ?? [];
    const first = works.find((one) => one.signed_off_at === null) ?? works[0];
    const work_id = this.asked ?? first?.id;
    if (work_id === undefined || this.job === null) return;
    const answer = await ask(client.GET("/api/v1/work/{work_id}", { params: { path: { work_id } } }));
    if (answer.kind === "done") this.work = answer.value;
    else this.wrong = this.#unread = sentence(answer);
  }

  /** Pass a step with what it asks for. */
  async pass(code: string, given: Partial<Unwritten<Schemas["StepPassIn"]>>): Promise<boolean> {
    const whole = { typed: "", values: {}, note: "", keep: false, sure: false, ...given };
    return this.#writeWork("pass", whole, code, (body) =>
      client.POST("/api/v1/work/{work_id}/steps/{code}/pass", {
        params: { path: { work_id: this.workId, code } },
        body,
      }),
    );
  }

  /** Keep a picture taken at a step; the same picture sent again after a lost answer is the same write. */
  async addPhoto(code: string, file: Blob): Promise<boolean> {
    const key = `photo ${this.workId} ${code} ${file.size} ${await digest(file)}`;
    const fields = this.#unanswered.envelope(key);
    this.busy = true;
    const answer = await ask(
      client.POST("/api/v1/work/{work_id}/steps/{code}/photos", {
        params: { path: { work_id: this.workId, code } },
        body: { ...fields, file: "" },
        bodySerializer: () => upload(file, fields),
      }),
    );
    this.busy = false;
    this.#unanswered.answered(key, answer);
    this.wrong = answer.kind === "done" ? null : sentence(answer);
    if (answer.kind === "done") this.work = answer.value;
    return answer.kind === "done";
  }

  /** Start a clock, or park the work. */
  async begin(code: string, given: Unwritten<Schemas["StepBeginIn"]>): Promise<boolean> {
    return this.#writeWork("begin", given, code, (body) =>
      client.POST("/api/v1/work/{work_id}/steps/{code}/begin", {
        params: { path: { work_id: this.workId, code } },
        body,
      }),
    );
  }

  /** Leave a step out, or cut its clock short. */
  async skip(code: string, reason: string): Promise<boolean> {
    return this.#writeWork("skip", { reason }, code, (body) =>
      client.POST("/api/v1/work/{work_id}/steps/{code}/skip", {
        params: { path: { work_id: this.workId, code } },
        body,
      }),
    );
  }

  /** Answer a question of the run sheet. */
  async choose(question: string, way: string, reason: string): Promise<boolean> {
    return this.#writeWork("way", { question, way, reason }, question, (body) =>
      client.POST("/api/v1/work/{work_id}/ways", { params: { path: { work_id: this.workId } }, body }),
    );
  }

  async takeBack(code: string, reason: string): Promise<boolean> {
    return this.#writeWork("back", { reason }, code, (body) =>
      client.POST("/api/v1/work/{work_id}/steps/{code}/take-back", {
        params: { path: { work_id: this.workId, code } },
        body,
      }),
    );
  }

  async identify(gears: Unwritten<Schemas["GearSetIn"]>): Promise<boolean> {
    return this.#writeWork("gear set", gears, "", (body) =>
      client.POST("/api/v1/work/{work_id}/gear-set", { params: { path: { work_id: this.workId } }, body }),
    );
  }

  /** Judge this work by a newer revision of its sheet from now on. */
  async adoptSheet(revision: number, reason: string): Promise<boolean> {
    const version = this.work?.version ?? 0;
    return this.#writeWork("sheet", { revision, version, reason }, "", (body) =>
      client.POST("/api/v1/work/{work_id}/sheet-revision", {
        params: { path: { work_id: this.workId } },
        body,
      }),
    );
  }

  /** One more piece of work on this job; its id when it was booked. */
  async addWork(kind: string, place: Schemas["WorkBooked"]["place"], family: string): Promise<string | null> {
    const known = this.job?.works.map((one) => one.id) ?? [];
    const booked = await this.#writeJob("work", { kind, place, family }, (body) =>
      client.POST("/api/v1/jobs/{job_id}/work", { ...this.#path, body: { ...body, id: body.client_id } }),
    );
    return booked ? (this.job?.works.find((one) => !known.includes(one.id))?.id ?? null) : null;
  }

  async setStation(station: Station, state: Station["state"], note: string): Promise<boolean> {
    const { place, version } = station;
    return this.#writeJob(`station ${place}`, { state, note, version }, (body) =>
      client.PUT("/api/v1/jobs/{job_id}/stations/{place}", {
        params: { path: { job_id: this.id, place } },
        body,
      }),
    );
  }

  /** Change the card; a conflict is handed back so that the person can choose. */
  async edit(card: Unwritten<Schemas["JobEdit"]>): Promise<{ saved: boolean; theirs: Job | null }> {
    this.busy = true;
    const answer = await writeOnce(this.#unanswered, "card", card, (body) =>
      client.PATCH("/api/v1/jobs/{job_id}", { ...this.#path, body }),
    );
    this.busy = false;
    const theirs =
      answer.kind === "refused" && answer.refused.code === "conflict"
        ? (answer.refused.current as Job)
        : null;
    this.#take(answer);
    return { saved: answer.kind === "done", theirs };
  }

  async #writeJob<Body extends object>(
    what: string,
    body: Body,
    call: (body: Body & Parameters<Call<Job>>[0]) => ReturnType<Call<Job>>,
  ): Promise<boolean> {
    this.busy = true;
    const answer = await writeOnce(this.#unanswered, what, body, call);
    this.busy = false;
    this.#take(answer);
    return answer.kind === "done";
  }

  async #writeWork<Body extends object>(
    what: string,
    body: Body,
    to: string,
    call: (body: Body & Parameters<Call<Work>>[0]) => ReturnType<Call<Work>>,
  ): Promise<boolean> {
    this.busy = true;
    const answer = await writeOnce(this.#unanswered, `${what} ${to}`, body, call);
    this.busy = false;
    this.wrong = answer.kind === "done" ? null : sentence(answer);
    this.refused = answer.kind === "refused" ? { step: to, code: answer.refused.code } : null;
    if (answer.kind === "refused" && answer.refused.code === "passed_already") void this.load();
    if (answer.kind !== "done") return false;
    this.work = answer.value;
    void this.#loadJob(); // its state, its map and what comes next follow from the work
    return true;
  }

  /** Load the job again. What was refused meanwhile stays on the screen; a load that failed is forgotten once one works. */
  async #loadJob(): Promise<void> {
    const answer = await ask(client.GET("/api/v1/jobs/{job_id}", this.#path));
    if (answer.kind !== "done") {
      this.wrong = this.#unread = sentence(answer);
      return;
    }
    if (this.wrong === this.#unread) this.wrong = null;
    this.#unread = null;
    this.job = answer.value;
  }

  #take(answer: Answer<Job>): void {
    this.wrong = answer.kind === "done" ? null : sentence(answer);
    if (answer.kind === "done") this.job = answer.value;
  }
}
