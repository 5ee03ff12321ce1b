<script lang="ts">
  import { client, type Schemas } from "../api/client";
  import Notice from "../lib/Notice.svelte";
  import { save } from "../lib/svg-file";
  import type { DiffBench } from "./bench.svelte";
  import { sent } from "./values";

  interface Props {
    on: DiffBench;
  }
  let { on }: Props = $props();
  type Wanted = Omit<Schemas["GasketFileIn"], "values">;
  const FILES: { word: string; name: string; wanted: Wanted }[] = [
    { word: "PDF, A4", name: "gasket-a4.pdf", wanted: { kind: "pdf", paper: "a4" } },
    { word: "PDF, Letter", name: "gasket-letter.pdf", wanted: { kind: "pdf", paper: "letter" } },
    { word: "SVG", name: "gasket.svg", wanted: { kind: "svg", paper: "a4" } },
    { word: "DXF", name: "gasket.dxf", wanted: { kind: "dxf", paper: "a4" } },
  ];
  let wrong = $state<string | null>(null);
  let busy = $state(false);

  async function download(name: string, wanted: Wanted) {
    const tool = on.tool;
    if (tool === null) return;
    busy = true;
    wrong = null;
    try {
      const { data, error } = await client.POST("/api/v1/gasket-file", {
        body: { ...wanted, values: sent(tool, $state.snapshot(on.values)) },
        parseAs: "blob",
      });
      if (data) save(data as unknown as Blob, name);
      else
        wrong =
          (error as { error?: { message?: string } } | undefined)?.error?.message ?? "The file was not made.";
    } catch {
      wrong = "The connection is lost. Try again.";
    }
    busy = false;
  }
</script>

<section class="mt-3" aria-labelledby="gasket-files">
  <h3 id="gasket-files">True to size</h3>
  <p class="quiet text-sm">Print at 100 %, not fitted to the page, and measure the bar: it must be 100 mm.</p>
  <div class="mt-1 flex flex-wrap gap-2">
    {#each FILES as one (one.name)}
      <button
        type="button"
        class="btn btn-plain"
        disabled={busy}
        onclick={() => void download(one.name, one.wanted)}>{one.word}</button
      >
    {/each}
  </div>
  <Notice text={wrong} />
</section>
