import { ask, client, sentence, type Schemas } from "../api/client";
import { UnansweredIds } from "../lib/ids";
import { sendOnce } from "../lib/writes";
import { begun, putAt, sent, type Slot, type Tool, type Typed, type Values } from "./values";

type Desk = Schemas["DiffBenchOut"];
type Answer = Schemas["DiffAnswer"];

const PAUSE_MS = 200;
/** Limits of one vehicle are no limits of the next: nothing typed without a job outlives it here. */
const KEY = "amber.diff";

/** The Diff bench on the screen: one tool in hand, what was typed at each, and what the server makes of it. */
export class DiffBench {
  desk = $state.raw<Desk | null>(null);
  code = $state("");
  gauge = $state("");
  answer = $state.raw<Answer | null>(null);
  wrong = $state<string | null>(null);
  lost = $state(false);
  busy = $state(false);
  private readonly typed = $state<Record<string, Values>>({});
  private pending: ReturnType<typeof setTimeout> | undefined;
  private asked = 0;
  private readonly ids = new UnansweredIds();

  readonly tool = $derived<Tool | null>(this.desk?.tools.find((one) => one.code === this.code) ?? null);
  readonly values = $derived<Values>(this.typed[this.code] ?? {});

  constructor(
    private readonly work: string | null,
    private readonly store: Pick<Storage, "getItem" | "setItem">,
  ) {}

  async load(code: string): Promise<void> {
    const answer =
      this.work === null
        ? await ask(client.GET("/api/v1/diff-bench"))
        : await ask(
            client.GET("/api/v1/work/{work_id}/diff-bench", { params: { path: { work_id: this.work } } }),
          );
    this.lost = answer.kind === "lost";
    if (answer.kind === "refused") this.wrong = sentence(answer);
    if (answer.kind !== "done") return;
    this.desk = answer.value;
    if (this.code === "") {
      this.restore();
      this.pick(code);
    }
  }

  pick(code: string): void {
    const tool = this.desk?.tools.find((one) => one.code === code) ?? this.desk?.tools[0];
    if (!tool) return;
    this.code = tool.code;
    this.typed[tool.code] ??= begun(tool);
    this.answer = null;
    this.wrong = null;
    void this.ask();
  }

  set(name: string, value: Typed): void {
    this.change({ ...this.values, [name]: value });
  }

  put(slot: Slot, text: string): void {
    this.change(putAt(this.values, slot, text));
  }

  setGauge(code: string): void {
    this.gauge = code;
    void this.ask();
  }

  /** Everything typed at this tool is as it was to begin with. */
  clear(): void {
    if (this.tool) this.change(begun(this.tool));
  }

  /** What a kept answer was made of, on the tool again. */
  open(tool: string, values: Values, gauge: string): void {
    this.pick(tool);
    this.gauge = gauge;
    if (this.tool) this.change({ ...begun(this.tool), ...values });
  }

  private change(values: Values): void {
    this.typed[this.code] = values;
    this.save();
    clearTimeout(this.pending);
    this.pending = setTimeout(() => void this.ask(), PAUSE_MS);
  }

  async ask(): Promise<void> {
    clearTimeout(this.pending);
    const tool = this.tool;
    if (tool === null) return;
    const mine = ++this.asked;
    const body = { tool: tool.code, values: sent(tool, $state.snapshot(this.values)), gauge: this.gauge };
    const answer = await ask(client.POST("/api/v1/diff-work", { body }));
    if (mine !== this.asked) return;
    this.lost = answer.kind === "lost";
    this.wrong = answer.kind === "refused" ? sentence(answer) : null;
    if (answer.kind === "done") this.answer = answer.value;
  }

  /** null when it was kept, else why not. */
  async keep(title: string, step: string): Promise<string | null> {
    const tool = this.tool;
    if (tool === null || this.work === null) return null;
    this.busy = true;
    const body = {
      tool: tool.code,
      values: sent(tool, $state.snapshot(this.values)),
      gauge: this.gauge,
      title,
      step,
    };
    const work_id = this.work;
    // a lost answer is asked for again under the same id, so that nothing is kept twice
    const wrong = await sendOnce(this.ids, body, (written) =>
      client.POST("/api/v1/work/{work_id}/diff-results", { params: { path: { work_id } }, body: written }),
    );
    this.busy = false;
    if (wrong === null) await this.load(this.code);
    return wrong;
  }

  /** The sentence about a field, if something is wrong with it. */
  slip(path: string): string | null {
    return this.answer?.wrong.find((one) => one.field === path)?.text ?? null;
  }

  stop(): void {
    clearTimeout(this.pending);
  }

  private save(): void {
    if (this.work === null) return;
    try {
      this.store.setItem(`${KEY}.${this.work}`, JSON.stringify($state.snapshot(this.typed)));
    } catch {
      // a browser that keeps nothing: what was typed lives as long as the page
    }
  }

  private restore(): void {
    if (this.work === null) return;
    try {
      const kept = JSON.parse(this.store.getItem(`${KEY}.${this.work}`) ?? "{}") as Record<string, Values>;
      for (const tool of this.desk?.tools ?? []) {
        const values = kept[tool.code];
        if (values) this.typed[tool.code] = { ...begun(tool), ...values };
      }
    } catch {
      // what somebody else left there
    }
  }
}
