<script lang="ts">
  import { typedNumber } from "../lib/typed-number";
  import type { DiffBench } from "./bench.svelte";
  import { disagreement, inMillimetres, MOST_DIFFERENCE, type Known, type Pixel } from "./trace";

  interface Props {
    on: DiffBench;
  }
  let { on }: Props = $props();
  type Mode = "first" | "second" | "outer" | "inner" | "holes";
  const MODES: { key: Mode; word: string }[] = [
    { key: "first", word: "First known distance" },
    { key: "second", word: "Second known distance" },
    { key: "outer", word: "Outside edge" },
    { key: "inner", word: "Inside edge" },
    { key: "holes", word: "Holes" },
  ];
  let picture = $state<string | null>(null);
  let size = $state({ wide: 1, high: 1 });
  let mode = $state<Mode>("first");
  let points = $state<Record<Mode, Pixel[]>>({ first: [], second: [], outer: [], inner: [], holes: [] });
  let lengths = $state({ first: "", second: "" });
  let wrong = $state("");

  const known = $derived(
    (["first", "second"] as const).flatMap((one): Known[] => {
      const [from, to] = points[one];
      const mm = typedNumber(lengths[one]);
      return from && to && mm !== null && mm > 0 ? [{ from, to, mm }] : [];
    }),
  );
  const off = $derived(disagreement(known));

  $effect(() => () => {
    if (picture) URL.revokeObjectURL(picture);
  });
  function choose(event: Event) {
    const file = (event.currentTarget as HTMLInputElement).files?.[0];
    if (!file) return;
    if (picture) URL.revokeObjectURL(picture);
    picture = URL.createObjectURL(file);
    points = { first: [], second: [], outer: [], inner: [], holes: [] };
    mode = "first";
  }
  function press(event: MouseEvent) {
    const box = (event.currentTarget as SVGSVGElement).getBoundingClientRect();
    const at = {
      x: ((event.clientX - box.left) / box.width) * size.wide,
      y: ((event.clientY - box.top) / box.height) * size.high,
    };
    const most = mode === "first" || mode === "second" ? 2 : Infinity;
    points[mode] = [...points[mode], at].slice(-most);
  }
  function use() {
    wrong = "";
    if (known.length < 2) {
      wrong = "Mark two known distances on the photo and type their lengths.";
      return;
    }
    if (points.outer.length < 3) {
      wrong = "Mark three points or more round the outside edge.";
      return;
    }
    on.set("outer.kind", "points");
    on.set("outer.points_mm", inMillimetres(points.outer, known));
    if (points.inner.length > 2) {
      on.set("inner.kind", "points");
      on.set("inner.points_mm", inMillimetres(points.inner, known, points.outer));
    }
    if (points.holes.length > 0) {
      on.set("holes.kind", "points");
      on.set("holes.points_mm", inMillimetres(points.holes, known, points.outer));
    }
  }
</script>

<details class="col-span-full">
  <summary class="min-h-touch flex cursor-pointer items-center underline underline-offset-3"
    >Trace it on a photo</summary
  >
  <p class="quiet text-sm">
    Photograph the face square on, with two known lengths in the picture, one along and one across: two steel
    rules do. The photo stays on this device.
  </p>
  <input
    type="file"
    accept="image/*"
    class="file-input mt-2 w-full max-w-md"
    aria-label="Photo of the face"
    onchange={choose}
  />
  {#if picture}
    <div class="mt-3 flex flex-wrap gap-2" role="radiogroup" aria-label="What is marked">
      {#each MODES as one (one.key)}
        <input
          type="radio"
          class="btn btn-plain choice"
          name="trace"
          aria-label={`${one.word}${points[one.key].length > 0 ? `: ${points[one.key].length}` : ""}`}
          checked={mode === one.key}
          onchange={() => (mode = one.key)}
        />
      {/each}
      <button
        type="button"
        class="btn btn-plain"
        disabled={points[mode].length === 0}
        onclick={() => (points[mode] = points[mode].slice(0, -1))}>Undo</button
      >
    </div>
    <div class="mt-2 flex flex-wrap gap-3">
      {#each ["first", "second"] as const as one (one)}
        <label class="grid gap-1"
          ><span class="label-text">{one === "first" ? "First" : "Second"} length (mm)</span><input
            class="input figure w-36 text-lg"
            inputmode="decimal"
            autocomplete="off"
            bind:value={lengths[one]}
          /></label
        >
      {/each}
    </div>
    {#if off > MOST_DIFFERENCE}<p class="text-out font-semibold" role="alert">
        The two lengths disagree by {(off * 100).toFixed(0)} %: the photo was not taken square on, or a mark is
        off.
      </p>{/if}
    <div class="border-line relative mt-2 border">
      <img
        src={picture}
        alt="The face to be traced"
        class="block w-full"
        onload={(event) => {
          const shown = event.currentTarget as HTMLImageElement;
          size = { wide: shown.naturalWidth, high: shown.naturalHeight };
        }}
      />
      <!-- svelte-ignore a11y_click_events_have_key_events -->
      <!-- svelte-ignore a11y_no_static_element_interactions -->
      <svg
        class="absolute inset-0 size-full cursor-crosshair"
        viewBox={`0 0 ${size.wide} ${size.high}`}
        onclick={press}
        data-trace
      >
        {#each MODES as one (one.key)}
          <g class={one.key === mode ? "text-out" : "text-next"}>
            {#if one.key !== "holes"}<polyline
                points={points[one.key].map((at) => `${at.x},${at.y}`).join(" ")}
                fill="none"
                stroke="currentColor"
                stroke-width={size.wide / 250}
              />{/if}
            {#each points[one.key] as at, index (index)}<circle
                cx={at.x}
                cy={at.y}
                r={size.wide / 110}
                fill="none"
                stroke="currentColor"
                stroke-width={size.wide / 300}
              />{/each}
          </g>
        {/each}
      </svg>
    </div>
    <button type="button" class="btn btn-neutral mt-2" onclick={use}>Use these points</button>
    {#if wrong}<p class="text-out mt-1 font-semibold" role="alert">{wrong}</p>{/if}
  {/if}
</details>
