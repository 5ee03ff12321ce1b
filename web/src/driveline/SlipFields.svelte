<script lang="ts">
  import { untrack } from "svelte";

  import type { Schemas } from "../api/client";
  import NumberField from "../lib/NumberField.svelte";
  import { told, type Unit } from "../lib/units";
  import VerdictMark from "../lib/VerdictMark.svelte";
  import { VERDICT_WORDS } from "../lib/words";
  import type { DrivelineDesk, Inputs } from "./desk.svelte";

  interface Props {
    on: DrivelineDesk;
    inputs: Inputs;
    slip: Schemas["Slip"] | null | undefined;
    size: Unit;
  }
  let { on, inputs, slip, size }: Props = $props();
  type Slip = Schemas["SlipIn"];
  const NONE: Record<keyof Slip, number | null> = {
    spline_diameter_mm: null,
    engaged_ride_mm: null,
    collapse_ride_mm: null,
  };
  /** judged once all three are known, never with a made-up one */
  let partial = $state<Record<keyof Slip, number | null>>({ ...NONE, ...untrack(() => inputs.slip) });
  const one = (mm: number) => told(mm, size);

  function typed(key: keyof Slip, value: number | null) {
    partial[key] = value;
    const { spline_diameter_mm, engaged_ride_mm, collapse_ride_mm } = partial;
    inputs.slip =
      spline_diameter_mm === null || engaged_ride_mm === null || collapse_ride_mm === null
        ? null
        : { spline_diameter_mm, engaged_ride_mm, collapse_ride_mm };
    on.changed();
  }
</script>

<section aria-labelledby="slip">
  <h2 id="slip">Slip joint</h2>
  <div class="grid max-w-2xl grid-cols-1 gap-2 sm:grid-cols-3">
    {#each [{ key: "spline_diameter_mm", word: "Spline diameter" }, { key: "engaged_ride_mm", word: "Spline engaged at ride height" }, { key: "collapse_ride_mm", word: "Room to push in" }] as const as field (field.key)}
      <NumberField
        label={field.word}
        value={partial[field.key]}
        unit={size}
        optional
        ontyped={(value) => typed(field.key, value)}
      />
    {/each}
  </div>
  {#if slip}
    <p class="figure mt-3 flex items-center gap-2 text-2xl">
      <VerdictMark verdict={slip.verdict} size={26} />{VERDICT_WORDS[slip.verdict]}
    </p>
    <ul>
      {#each slip.reasons as reason (reason.code + reason.field)}<li>
          {reason.text}
        </li>{/each}
    </ul>
    {#if slip.lengthen_shaft_by_mm !== 0}
      <p>
        A propshaft {one(Math.abs(slip.lengthen_shaft_by_mm))}
        {slip.lengthen_shaft_by_mm > 0
          ? "longer would have enough spline engagement."
          : "shorter would not bottom out."}
      </p>
    {/if}
    <p class="quiet text-sm">
      Two diameters of spline and 25 mm of room are rules of thumb. A slip joint that bottoms out pushes out
      the output seal; one that runs out of spline lets the propshaft drop.
    </p>
  {:else}
    <p class="quiet">
      Enter all three, measured at ride height: the spline diameter, the engagement from a mark on the spline
      to the seal lip, and how far the slip yoke still goes in.
    </p>
  {/if}
</section>
