import { ask, client, sentence, type Answer, type Job, type Schemas, type Station } from "../api/client";
import { UnansweredIds } from "../lib/ids";

/** One job on the screen: what the server last said, and the writes made to it. */
export class JobOnScreen {
  job = $state.raw<Job | null>(null);
  wrong = $state<string | null>(null);
  busy = $state(false);
  readonly id: string;
  #unanswered = new UnansweredIds();

  constructor(id: string) {
    this.id = id;
  }

  get #path() {
    return { params: { path: { job_id: this.id } } };
  }

  async load(): Promise<void> {
    this.#take(await ask(client.GET("/api/v1/jobs/{job_id}", this.#path)));
  }

  async pass(code: string, typed: string): Promise<boolean> {
    return this.#write(`pass ${code}`, (client_id) =>
      client.POST("/api/v1/jobs/{job_id}/steps/{code}/pass", {
        params: { path: { job_id: this.id, code } },
        body: { client_id, typed, note: "" },
      }),
    );
  }

  async takeBack(code: string, reason: string): Promise<boolean> {
    return this.#write(`back ${code}`, (client_id) =>
      client.POST("/api/v1/jobs/{job_id}/steps/{code}/take-back", {
        params: { path: { job_id: this.id, code } },
        body: { client_id, reason },
      }),
    );
  }

  async identify(body: Omit<Schemas["GearSetIn"], "client_id">): Promise<boolean> {
    return this.#write("gear set", (client_id) =>
      client.POST("/api/v1/jobs/{job_id}/gear-set", { ...this.#path, body: { ...body, client_id } }),
    );
  }

  async setStation(place: Station["place"], state: Station["state"], note: string): Promise<boolean> {
    return this.#write(`station ${place}`, () =>
      client.PUT("/api/v1/jobs/{job_id}/stations/{place}", {
        params: { path: { job_id: this.id, place } },
        body: { state, note },
      }),
    );
  }

  /** Change the card; a conflict is handed back so that the person can choose. */
  async edit(body: Schemas["JobEdit"]): Promise<{ saved: boolean; theirs: Job | null }> {
    this.busy = true;
    const answer = await ask(client.PATCH("/api/v1/jobs/{job_id}", { ...this.#path, body }));
    this.busy = false;
    const theirs =
      answer.kind === "refused" && answer.refused.code === "conflict"
        ? (answer.refused.current as Job)
        : null;
    this.#take(answer);
    return { saved: answer.kind === "done", theirs };
  }

  async #write(
    what: string,
    send: (id: string) => Promise<{ data?: Job; error?: unknown; response: Response }>,
  ): Promise<boolean> {
    this.busy = true;
    const answer = await ask(send(this.#unanswered.idFor(what)));
    this.busy = false;
    this.#unanswered.answered(what, answer.kind);
    this.#take(answer);
    return answer.kind === "done";
  }

  #take(answer: Answer<Job>): void {
    this.wrong = answer.kind === "done" ? null : sentence(answer);
    if (answer.kind === "done") this.job = answer.value;
  }
}
