<script lang="ts">
  import { untrack } from "svelte";

  import type { Bench, Contact, Flank, Preview, Schemas, Trial } from "../../api/client";
  import Notice from "../../lib/Notice.svelte";
  import type { BenchOnScreen } from "../bench.svelte";
  import { drawn, reported, sensible, type FlankFrame, type Patch } from "./flank";
  import FlankDrawing from "./FlankDrawing.svelte";
  import { shrunk } from "../../lib/photo";

  interface Props {
    on: BenchOnScreen;
    bench: Bench;
    trial: Trial;
    flank: Flank;
    contact: Contact | null;
    mayRecord: boolean;
  }
  let { on, bench, trial, flank, contact, mayRecord }: Props = $props();
  const read = $derived(trial[flank]);
  const NAMES = { drive: "Drive side", coast: "Coast side" };
  const name = $derived(NAMES[flank]);
  const curved = $derived((bench.start.drive_flank === "convex") === (flank === "drive"));
  const REACH = 22;
  const begin: Patch = { u: 0.48, v: 0.5, long: 0.25, short: 0.22, lean: 0 };
  let patch = $state.raw<Patch>(untrack(() => (read ? drawn(read) : begin)));
  let touched = $state(false);
  let preview = $state.raw<Preview | null>(null);
  let photo = $state.raw<{ id: string; place: Schemas["PhotoPlace"] } | null>(
    untrack(() => (read?.photo ? { id: read.photo, place: read.photo_place ?? centred() } : null)),
  );
  let underneath = $state(true);
  let wrong = $state<string | null>(null);
  let svg: HTMLDivElement | undefined = $state();
  let grip: { what: "move" | "long" | "short" | "lean"; u: number; v: number; from: Patch } | null = null;
  const shown = $derived(reported(patch));

  function centred(): Schemas["PhotoPlace"] {
    return { x: 0.5, y: 0.5, scale: 1, turn_deg: 0 };
  }
  function change(next: Patch) {
    patch = sensible(next);
    touched = true;
  }

  // what the patch would say, a moment after the hand rests
  $effect(() => {
    if (!touched) return;
    const { u, v, runs_off } = shown;
    const timer = setTimeout(async () => {
      preview = await on.preview({ flank, u, v, runs_off });
    }, 250);
    return () => clearTimeout(timer);
  });

  function place(event: PointerEvent, frame: FlankFrame) {
    const box = svg?.querySelector("svg")?.getBoundingClientRect();
    if (!box) return { u: 0, v: 0 };
    const scale = frame.width / box.width;
    return frame.under({ x: (event.clientX - box.left) * scale, y: (event.clientY - box.top) * scale });
  }
  function grab(event: PointerEvent, frame: FlankFrame, what: "move" | "long" | "short" | "lean") {
    if (!mayRecord) return;
    event.preventDefault();
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
    grip = { what, ...place(event, frame), from: patch };
  }
  function drag(event: PointerEvent, frame: FlankFrame) {
    if (grip === null) return;
    const now = place(event, frame);
    const { from } = grip;
    const turn = (from.lean * Math.PI) / 180;
    const along = (now.u - from.u) * Math.cos(turn) + (now.v - from.v) * Math.sin(turn);
    const across = -(now.u - from.u) * Math.sin(turn) + (now.v - from.v) * Math.cos(turn);
    if (grip.what === "move") change({ ...from, u: from.u + now.u - grip.u, v: from.v + now.v - grip.v });
    if (grip.what === "long") change({ ...from, long: Math.abs(along) });
    if (grip.what === "short") change({ ...from, short: Math.abs(across) });
    if (grip.what === "lean")
      change({ ...from, lean: (Math.atan2(now.v - from.v, now.u - from.u) * 180) / Math.PI });
  }
  function keys(event: KeyboardEvent) {
    if (!mayRecord || event.ctrlKey || event.metaKey || event.altKey) return;
    const step = 0.01;
    const { shiftKey, key } = event;
    const moves: Record<string, Partial<Patch>> = shiftKey
      ? {
          ArrowLeft: { long: patch.long - step },
          ArrowRight: { long: patch.long + step },
          ArrowDown: { short: patch.short - step },
          ArrowUp: { short: patch.short + step },
        }
      : {
          ArrowLeft: { u: patch.u - step },
          ArrowRight: { u: patch.u + step },
          ArrowDown: { v: patch.v - step },
          ArrowUp: { v: patch.v + step },
          "[": { lean: patch.lean - 2 },
          "]": { lean: patch.lean + 2 },
        };
    const move = moves[key];
    if (move === undefined) {
      if (key === "Enter" && event.target === event.currentTarget) void take();
      return;
    }
    event.preventDefault();
    change({ ...patch, ...move });
  }
  async function take(replaces: string | null = null) {
    wrong = await on.takePattern(trial.id, {
      flank,
      ...shown,
      photo: photo?.id ?? null,
      photo_place: photo?.place ?? null,
      note: "",
      replaces,
    });
    if (wrong === null) touched = false;
  }
  async function add(event: Event) {
    const file = (event.currentTarget as HTMLInputElement).files?.[0];
    if (!file) return;
    wrong = null;
    const small = await shrunk(file);
    if (small === null) {
      wrong = "This file cannot be opened as a picture.";
      return;
    }
    const answer = await on.addPhoto(trial.id, flank, small);
    if (answer.kind === "done") photo = { id: answer.value.id, place: centred() };
    else
      wrong =
        answer.kind === "refused"
          ? answer.refused.message
          : "The connection is lost. Add the photo again when it is back.";
  }
  const SLIDERS = [
    { key: "u", label: "Toe to heel", min: 0, max: 1, step: 0.01 },
    { key: "v", label: "Root to tip", min: 0, max: 1, step: 0.01 },
    { key: "long", label: "Length", min: 0.05, max: 0.75, step: 0.01 },
    { key: "short", label: "Height", min: 0.05, max: 0.75, step: 0.01 },
    { key: "lean", label: "Tilt", min: -80, max: 80, step: 2 },
  ] as const;
  const percent = (value: number) => `${Math.round(100 * value)}`;
  const share = (value: number) => `${Math.round(100 * value)} %`;
</script>

{#snippet handle(
  frame: FlankFrame,
  what: "long" | "short" | "lean",
  a: number,
  b: number,
  shape: "square" | "ring",
)}
  {@const turn = (patch.lean * Math.PI) / 180}
  {@const p = frame.at(
    patch.u + a * Math.cos(turn) - b * Math.sin(turn),
    patch.v + a * Math.sin(turn) + b * Math.cos(turn),
  )}
  {@const middle = frame.at(patch.u, patch.v)}
  {@const far = Math.hypot(p.x - middle.x, p.y - middle.y) || 1}
  <g
    role="presentation"
    class="cursor-grab touch-none"
    onpointerdown={(event) => grab(event, frame, what)}
    onpointermove={(event) => drag(event, frame)}
    onpointerup={() => (grip = null)}
    onpointercancel={() => (grip = null)}
  >
    <!-- the finger's target lies outward, so that the patch itself stays free to be moved -->
    <circle
      cx={p.x + (REACH * (p.x - middle.x)) / far}
      cy={p.y + (REACH * (p.y - middle.y)) / far}
      r="27"
      fill="transparent"
    />
    {#if shape === "square"}
      <rect
        x={p.x - 7}
        y={p.y - 7}
        width="14"
        height="14"
        class="fill-base-100 stroke-base-content"
        stroke-width="2.5"
      />
    {:else}
      <circle cx={p.x} cy={p.y} r="7" class="fill-base-100 stroke-base-content" stroke-width="2.5" />
    {/if}
  </g>
{/snippet}

<section aria-label={name} class="min-w-0">
  <div class="flex flex-wrap items-baseline gap-x-3">
    <h3>{name}</h3>
    <span class="quiet text-sm"
      >{curved ? "convex side" : "concave side"}, {flank === "drive"
        ? "in contact on drive"
        : "in contact on coast"}</span
    >
  </div>
  <!-- svelte-ignore a11y_no_noninteractive_tabindex, a11y_no_noninteractive_element_interactions -->
  <div
    bind:this={svg}
    class="focus-visible:outline-base-content relative"
    role="group"
    aria-label={`${name}: arrows move the patch, with Shift they stretch it, [ and ] tilt it, Enter records it`}
    tabindex={mayRecord ? 0 : -1}
    onkeydown={keys}
  >
    <FlankDrawing
      proportions={bench.proportions}
      label={`${name}: patch at ${share(shown.u)} from toe to heel, ${share(shown.v)} from root to tip`}
      model={contact ? contact[flank] : null}
      window={bench.pattern_window[flank]}
    >
      {#snippet children(frame)}
        {#if photo && underneath}
          {@const middle = frame.at(photo.place.x, photo.place.y)}
          {@const wide = (frame.width - 2 * frame.pad) * photo.place.scale}
          <image
            href={`/api/v1/photos/${photo.id}`}
            x={middle.x - wide / 2}
            y={middle.y - wide / 4}
            width={wide}
            height={wide / 2}
            preserveAspectRatio="xMidYMid meet"
            transform={`rotate(${photo.place.turn_deg} ${middle.x} ${middle.y})`}
          />
        {/if}
        {#if read !== null || touched || mayRecord}
          <path
            role="presentation"
            d={frame.patch(patch)}
            class={[
              "fill-next touch-none",
              mayRecord && "cursor-move",
              read === null && !touched && "opacity-40",
              photo && underneath && "opacity-60",
            ]}
            onpointerdown={(event) => grab(event, frame, "move")}
            onpointermove={(event) => drag(event, frame)}
            onpointerup={() => (grip = null)}
            onpointercancel={() => (grip = null)}
          />
        {/if}
      {/snippet}
      {#snippet over(frame)}
        {#if read !== null || touched}
          {@const at = frame.at(shown.u, shown.v)}
          <path
            d={`M${at.x - 7} ${at.y}h14M${at.x} ${at.y - 7}v14`}
            class="stroke-next-content"
            stroke-width="2"
          />
        {/if}
        {#if read && read.mean.count > 1}
          {#each read.readings as one (one.id)}
            {@const before = frame.at(one.u, one.v)}
            <circle
              cx={before.x}
              cy={before.y}
              r="4"
              class="fill-base-content stroke-base-100"
              stroke-width="1.5"
            />
          {/each}
          {@const mean = frame.at(read.mean.u, read.mean.v)}
          <circle cx={mean.x} cy={mean.y} r="10" class="stroke-base-100 fill-none" stroke-width="6" />
          <circle cx={mean.x} cy={mean.y} r="10" class="stroke-base-content fill-none" stroke-width="2.5" />
        {/if}
        {#if mayRecord}
          {@render handle(frame, "lean", -patch.long * 0.99, 0, "ring")}
          {@render handle(frame, "short", 0, patch.short, "square")}
          {@render handle(frame, "long", patch.long, 0, "square")}
        {/if}
      {/snippet}
    </FlankDrawing>
  </div>
  <p class="min-h-6" role="status">
    {#if touched && preview}
      {preview.text}
      {#if preview.contradicts}<strong class="text-edge">{preview.contradicts}</strong>{/if}
    {:else if shown.runs_off.length > 0}
      Runs off at the {shown.runs_off.join(" and the ")}.
    {:else if read === null && !touched}
      <span class="quiet">Drag, stretch and tilt the patch until it looks like the painted tooth.</span>
    {/if}
  </p>
  {#if read}
    {@const allowed = bench.pattern_window[flank]}
    {@const several = read.mean.count > 1}
    <p class="mt-1">
      <strong>{several ? `Mean of ${read.mean.count} readings:` : "Middle:"}</strong>
      {share(read.mean.u)}{several ? ` ± ${share(read.mean.sd_u)}` : ""} toe to heel (window {percent(
        allowed.u_min,
      )} to {share(allowed.u_max)}), {share(read.mean.v)}{several ? ` ± ${share(read.mean.sd_v)}` : ""} root to
      face (window {percent(allowed.v_min)} to
      {share(allowed.v_max)}).
    </p>
  {/if}
  {#if read && read.mean.count > 1}
    <ol class="quiet text-sm" aria-label={`Readings of the ${flank} pattern`}>
      {#each read.readings as one, index (one.id)}
        <li>
          {index + 1}. {share(one.u)}, {share(one.v)}{one.photo ? ", by photo" : ""}, {one.by_name}
        </li>
      {/each}
    </ol>
  {/if}
  {#if mayRecord}
    <div class="mt-2 flex flex-wrap items-center gap-2">
      <button
        class={["btn", touched ? "btn-primary" : "btn-neutral"]}
        disabled={on.busy}
        onclick={() => void take()}>{read ? "Record another reading" : `Record the ${flank} pattern`}</button
      >
      {#if read}
        <button class="btn btn-plain" disabled={on.busy || !touched} onclick={() => void take(read.id)}
          >Correct the last reading</button
        >
      {/if}
      <label class="btn btn-plain">
        Photo
        <input class="sr-only" type="file" accept="image/*" capture="environment" onchange={add} />
      </label>
      {#if photo}
        <label class="min-h-touch flex items-center gap-2"
          ><input class="checkbox" type="checkbox" bind:checked={underneath} /> under the patch</label
        >
      {/if}
    </div>
    <details>
      <summary class="min-h-touch cursor-pointer py-2 font-semibold">Use sliders</summary>
      <div class="grid grid-cols-[auto_minmax(0,1fr)_3rem] items-center gap-x-3 gap-y-0.5">
        {#each SLIDERS as slider (slider.key)}
          <label for={`${flank}-${slider.key}`} class="text-sm">{slider.label}</label>
          <input
            id={`${flank}-${slider.key}`}
            class="slider"
            type="range"
            min={slider.min}
            max={slider.max}
            step={slider.step}
            value={patch[slider.key]}
            oninput={(event) => change({ ...patch, [slider.key]: event.currentTarget.valueAsNumber })}
          />
          <span class="figure text-right"
            >{slider.key === "lean" ? `${Math.round(patch.lean)}°` : share(patch[slider.key])}</span
          >
        {/each}
      </div>
    </details>
    {#if photo}
      {@const now = photo}
      <fieldset class="mt-2 grid grid-cols-[auto_minmax(0,1fr)] items-center gap-x-3">
        <legend class="quiet text-sm">Line up the photo</legend>
        {#each [{ key: "x", label: "Sideways", min: -0.5, max: 1.5, step: 0.01 }, { key: "y", label: "Up", min: -0.5, max: 1.5, step: 0.01 }, { key: "scale", label: "Size", min: 0.3, max: 4, step: 0.02 }, { key: "turn_deg", label: "Turn", min: -180, max: 180, step: 1 }] as const as slider (slider.key)}
          <label for={`${flank}-photo-${slider.key}`} class="text-sm">{slider.label}</label>
          <input
            id={`${flank}-photo-${slider.key}`}
            class="slider"
            type="range"
            min={slider.min}
            max={slider.max}
            step={slider.step}
            value={now.place[slider.key]}
            oninput={(event) => {
              photo = { ...now, place: { ...now.place, [slider.key]: event.currentTarget.valueAsNumber } };
              touched = true;
            }}
          />
        {/each}
      </fieldset>
      {#if !underneath}
        <img
          class="mt-2 max-h-60 w-full object-contain"
          src={`/api/v1/photos/${photo.id}`}
          alt={`Painted tooth, ${name.toLowerCase()}`}
        />
      {/if}
    {/if}
  {/if}
  <Notice text={wrong} />
</section>
