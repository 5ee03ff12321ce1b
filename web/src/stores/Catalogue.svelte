<script lang="ts">
  import { ask, client, sentence, upload, type Schemas } from "../api/client";
  import FileLink from "../lib/FileLink.svelte";
  import Notice from "../lib/Notice.svelte";

  interface Props {
    mayEdit: boolean;
    /** after a list was taken in */
    onimported: () => void;
  }
  let { mayEdit, onimported }: Props = $props();
  type Kind = "gearboxes" | "transfer-cases" | "ratios" | "limits" | "fasteners" | "fluids" | "sheets";
  const KINDS: { kind: Kind; name: string }[] = [
    { kind: "gearboxes", name: "Gearboxes" },
    { kind: "transfer-cases", name: "Transfer cases" },
    { kind: "ratios", name: "Families' ratios" },
    { kind: "limits", name: "Families' limits" },
    { kind: "fasteners", name: "Families' fasteners" },
    { kind: "fluids", name: "Families' oil" },
    { kind: "sheets", name: "Whole sheets of families (JSON)" },
  ];
  let gearboxes = $state.raw<Schemas["GearboxOut"][]>([]);
  let cases = $state.raw<Schemas["TransferCaseOut"][]>([]);
  let kind = $state<Kind>("gearboxes");
  let told = $state<string | null>(null);
  let wrong = $state<string | null>(null);
  let bad = $state.raw<Schemas["RowWrongOut"][]>([]);

  async function load() {
    const [boxes, transfers] = await Promise.all([
      ask(client.GET("/api/v1/gearboxes")),
      ask(client.GET("/api/v1/transfer-cases")),
    ]);
    if (boxes.kind === "done") gearboxes = boxes.value;
    if (transfers.kind === "done") cases = transfers.value;
    if (boxes.kind !== "done") wrong = sentence(boxes);
  }
  void load();

  async function take(event: Event) {
    const field = event.currentTarget as HTMLInputElement;
    const file = field.files?.[0];
    if (!file) return;
    told = wrong = null;
    bad = [];
    const answer = await ask(
      client.POST("/api/v1/stores/{kind}/import", {
        params: { path: { kind } },
        body: { file: "" },
        bodySerializer: () => upload(file, {}),
      }),
    );
    field.value = "";
    if (answer.kind !== "done") {
      wrong = sentence(answer);
      return;
    }
    bad = answer.value.wrong;
    if (bad.length === 0) told = `${answer.value.added} added, ${answer.value.changed} changed.`;
    else wrong = `${bad.length} ${bad.length === 1 ? "row is" : "rows are"} wrong. Nothing was imported.`;
    await load();
    onimported();
  }
  const json = $derived(kind === "sheets");
</script>

<section aria-labelledby="catalogue" class="rule-top mt-8 pt-4">
  <h2 id="catalogue">Gearboxes and transfer cases</h2>
  <div class="grid gap-x-12 gap-y-4 lg:grid-cols-2">
    <div class="relative overflow-x-auto" tabindex="-1">
      <table class="w-full">
        <thead><tr class="quiet text-left"><th scope="col">Gearbox</th><th scope="col">Gears</th></tr></thead>
        <tbody>
          {#each gearboxes as one (one.code)}
            <tr class="border-line border-t"
              ><th scope="row" class="py-1 pr-3 text-left font-normal"
                >{one.name}{#if one.is_sample}<span class="sample ml-2">Sample</span>{/if}</th
              ><td>{one.gears.map((gear) => gear.toFixed(2)).join("  ")}</td></tr
            >
          {/each}
          {#each cases as one (one.code)}
            <tr class="border-line border-t"
              ><th scope="row" class="py-1 pr-3 text-left font-normal"
                >{one.name}{#if one.is_sample}<span class="sample ml-2">Sample</span>{/if}</th
              ><td>high {one.high.toFixed(2)}{one.low === null ? "" : `, low ${one.low.toFixed(2)}`}</td></tr
            >
          {/each}
        </tbody>
      </table>
    </div>
    <div>
      <label class="grid max-w-sm gap-1">
        <span class="label-text">List</span>
        <select class="select w-full" bind:value={kind}>
          {#each KINDS as one (one.kind)}<option value={one.kind}>{one.name}</option>{/each}
        </select>
      </label>
      <div class="mt-2 flex flex-wrap gap-2">
        <FileLink href={`/api/v1/stores/${kind}.${json ? "json" : "csv"}`}
          >Download list ({json ? "JSON" : "CSV"})</FileLink
        >
        {#if mayEdit}
          <label class="btn btn-plain">
            Upload list ({json ? "JSON" : "CSV"})
            <input
              class="sr-only"
              type="file"
              accept={json ? ".json,application/json" : ".csv,text/csv"}
              onchange={take}
            />
          </label>
        {/if}
      </div>
      <p class="quiet mt-2 text-sm">
        {json ? "Sheets" : "Rows"} with a known code change it, others are added. If any is wrong, nothing is imported.
      </p>
      <div class="mt-2">
        <Notice text={wrong} />
        {#if told}<Notice kind="told" text={told} />{/if}
      </div>
      {#if bad.length > 0}
        <table class="mt-2 w-full">
          <thead
            ><tr class="quiet text-left"
              ><th scope="col">{json ? "Sheet" : "Line"}</th><th scope="col">Column</th><th scope="col"
                >Why</th
              ></tr
            ></thead
          >
          <tbody>
            {#each bad as one (one.line + one.column)}
              <tr class="border-line border-t"
                ><th scope="row" class="text-left font-normal">{one.line}</th><td class="pr-3"
                  >{one.column}</td
                ><td>{one.text}</td></tr
              >
            {/each}
          </tbody>
        </table>
      {/if}
    </div>
  </div>
</section>
