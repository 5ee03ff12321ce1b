import { ask, client, sentence, upload, type Answer, type Schemas } from "../api/client";
import { deviceName, written, type Envelope, type Unwritten } from "../lib/envelope";
import { newId, UnansweredIds } from "../lib/ids";
import { writeOnce } from "../lib/writes";
import { dropQueued, enqueue, flush, queued, type Queued } from "./queue";

export type Wall = Schemas["WallOut"];
export type Part = Schemas["PartOut"];
export type Need = Schemas["NeedOut"];
export type Taken = Unwritten<Schemas["OffIn"]>;

export const NOTHING_TAKEN: Omit<Taken, "key"> = {
  name: "",
  side: "",
  facing: "",
  mark: "",
  bag: "",
  counted: null,
  stack: "",
  damaged: [],
  note: "",
  replaces: null,
  sure: false,
};

type Call<Body> = Parameters<typeof writeOnce<Body & object, Wall>>[3];

/** A wall on the screen: what the server last said, and what this browser still holds. */
export class WallOnScreen {
  wall = $state.raw<Wall | null>(null);
  wrong = $state<string | null>(null);
  /** code of the last refusal: some can be sent again with a word more */
  refused = $state<string | null>(null);
  busy = $state(false);
  lost = $state(false);
  /** some of what waits was recorded by another person than the one signed in */
  others = $state(false);
  waiting = $state.raw<Queued[]>([]);
  readonly workId: string;
  readonly device = deviceName();
  #ids = new UnansweredIds();
  #announced = false;

  constructor(workId: string) {
    this.workId = workId;
  }

  get #path() {
    return { params: { path: { work_id: this.workId } } };
  }

  #byKey = $derived(Object.fromEntries((this.wall?.parts ?? []).map((part) => [part.key, part])));

  /** The part of a key. */
  part(key: string): Part | null {
    return this.#byKey[key] ?? null;
  }

  /** What this browser holds and the server has not seen: keys that are off already for whoever stands here. */
  get heldKeys(): string[] {
    return this.waiting.filter((one) => one.what === "off" && one.wrong === null).map((one) => one.key);
  }

  async load(): Promise<void> {
    this.waiting = await queued(this.workId);
    const answer = await ask(client.GET("/api/v1/work/{work_id}/parts", this.#path));
    this.lost = answer.kind === "lost";
    if (answer.kind === "done") {
      this.wall = answer.value;
      await this.send();
    } else if (this.wall === null) this.wrong = sentence(answer);
  }

  /** Keep a part that came off, and its picture, in this browser; then send what waits. */
  async takeOff(taken: Taken, pictures: Blob[]): Promise<void> {
    this.wrong = null;
    this.refused = null;
    const { key } = taken;
    const photos = pictures.map((file) => ({ what: "photo" as const, key, body: { key }, file }));
    try {
      await enqueue(this.workId, [{ what: "off", key, body: { ...taken } }, ...photos]);
    } catch {
      this.wrong = "This browser has no room left to keep it. Note it on paper, and free some space.";
      return;
    }
    await this.send();
  }

  /** A picture of a part that is known. */
  async addPhoto(key: string, file: Blob): Promise<void> {
    await enqueue(this.workId, [{ what: "photo", key, body: { key }, file }]);
    await this.send();
  }

  /** Send what waits, in order; the server is told first how many there are, so that a lost phone is missed. */
  async send(): Promise<void> {
    this.waiting = await queued(this.workId);
    const open = this.waiting.filter((one) => one.wrong === null).length;
    if (open > 1) await this.#announce(open);
    const ended = await flush(
      this.workId,
      (one) => this.#sendOne(one),
      (wall) => (this.wall = wall),
    );
    this.waiting = await queued(this.workId);
    this.lost = ended === "lost";
    this.others = ended === "others";
    if (ended === "empty" && this.#announced) {
      await this.#announce(0);
      this.#announced = false;
    }
  }

  async #announce(waiting: number): Promise<void> {
    const answer = await ask(
      client.POST("/api/v1/work/{work_id}/parts/announced", {
        ...this.#path,
        body: { ...written(), waiting },
      }),
    );
    if (answer.kind !== "done") return;
    this.#announced = true;
    this.wall = answer.value;
  }

  #sendOne(one: Queued): Promise<Answer<Wall>> {
    if (one.what === "off")
      return ask(
        client.POST("/api/v1/work/{work_id}/parts/off", {
          ...this.#path,
          body: one.body as unknown as Schemas["OffIn"],
        }),
      );
    const file = new Blob([one.file ?? new ArrayBuffer(0)], { type: "image/jpeg" });
    const fields = { ...(one.body as Envelope), key: one.key };
    return ask(
      client.POST("/api/v1/work/{work_id}/parts/photos", {
        ...this.#path,
        body: { ...fields, file: "" },
        bodySerializer: () => upload(file, fields),
      }),
    );
  }

  /** Give up what the server will never take. */
  async drop(seq: number): Promise<void> {
    await dropQueued(seq);
    this.waiting = await queued(this.workId);
  }

  build = (facts: Record<string, string | boolean>, asked: string[]) =>
    this.#write("build", { facts, asked }, (body) =>
      client.POST("/api/v1/work/{work_id}/parts/build", { ...this.#path, body }),
    );

  look = (seen: Unwritten<Schemas["LookIn"]>) =>
    this.#write("look", seen, (body) =>
      client.POST("/api/v1/work/{work_id}/parts/looks", { ...this.#path, body }),
    );

  pieces = (given: Unwritten<Schemas["PiecesIn"]>) =>
    this.#write("pieces", given, (body) =>
      client.POST("/api/v1/work/{work_id}/parts/pieces", { ...this.#path, body }),
    );

  putBack = (given: Partial<Unwritten<Schemas["BackIn"]>> & { key: string }) =>
    this.#write(
      "back",
      { is_new: false, stays_out: false, counted: null, sure: false, note: "", ...given },
      (body) => client.POST("/api/v1/work/{work_id}/parts/back", { ...this.#path, body }),
    );

  undo = (record: string) =>
    this.#write("undo", { record }, (body) =>
      client.POST("/api/v1/work/{work_id}/parts/undo", { ...this.#path, body }),
    );

  need = (given: Unwritten<Schemas["NeedIn"]>) =>
    this.#write("need", given, (body) =>
      client.POST("/api/v1/work/{work_id}/parts/needs", { ...this.#path, body }),
    );

  needAll = (keys: string[]) =>
    this.#write("needAll", { keys }, (body) =>
      client.POST("/api/v1/work/{work_id}/parts/needs/proposed", { ...this.#path, body }),
    );

  endLink = (link_id: string) =>
    this.#write(`end ${link_id}`, {}, (body) =>
      client.POST("/api/v1/quote-links/{link_id}/end", { params: { path: { link_id } }, body }),
    );

  async #write<Body extends object>(what: string, body: Body, call: Call<Body>): Promise<boolean> {
    this.busy = true;
    const answer = await writeOnce(this.#ids, what, body, call);
    this.busy = false;
    this.refused = answer.kind === "refused" ? answer.refused.code : null;
    if (answer.kind === "done") {
      // a link can belong to other work on the same assembly: its answer is the wall as seen from there
      if (answer.value.work_id === this.workId) this.wall = answer.value;
      else await this.load();
      this.wrong = null;
      return true;
    }
    this.wrong = sentence(answer);
    return false;
  }
}

/** The key of a part that is in no list. */
export function ownKey(): string {
  return `own_${newId().replaceAll("-", "").slice(0, 16)}`;
}

/** What stands to come off next: the first of the plan that is on and holds nothing else up. */
export function nextOff(wall: Wall, held: string[]): Part | null {
  const isOn = (part: Part | undefined) =>
    part !== undefined && part.state === "on" && !held.includes(part.key);
  const named = (key: string) => wall.parts.find((part) => part.key === key);
  return (
    wall.parts.find((part) => part.planned && isOn(part) && !part.after.some((key) => isOn(named(key)))) ??
    null
  );
}

/** "Bearing cap, ring side" for the beginning of a line. */
export function titled(name: string): string {
  return name.charAt(0).toUpperCase() + name.slice(1);
}
