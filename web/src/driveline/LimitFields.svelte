<script lang="ts">
  import NumberField from "../lib/NumberField.svelte";
  import type { DrivelineDesk, Inputs } from "./desk.svelte";

  interface Props {
    on: DrivelineDesk;
    inputs: Inputs;
  }
  let { on, inputs }: Props = $props();
</script>

<details>
  <summary class="min-h-touch cursor-pointer py-2 font-semibold"
    >Limits: rules of thumb or the maker's</summary
  >
  <div class="grid grid-cols-2 gap-2">
    {#each [{ key: "torsional_rad_s2", word: "Torsional vibration (rad/s²)" }, { key: "inertia_rad_s2", word: "Inertia effects (rad/s²)" }, { key: "running_min_deg", word: "Least joint angle (°)" }, { key: "end_difference_deg", word: "Difference of the end angles (°)" }] as const as one (one.key)}
      <NumberField
        label={one.word}
        value={inputs.allowed[one.key]}
        ontyped={(value) => value !== null && on.set(() => (inputs.allowed[one.key] = value))}
      />
      <label class="min-h-touch flex items-center gap-2 self-end"
        ><input
          class="checkbox"
          type="checkbox"
          checked={inputs.allowed.from_maker?.includes(one.key) ?? false}
          onchange={(event) =>
            on.set(() => {
              const others = (inputs.allowed.from_maker ?? []).filter((name) => name !== one.key);
              inputs.allowed.from_maker = event.currentTarget.checked ? [...others, one.key] : others;
            })}
        />
        the maker's<span class="sr-only">: {one.word}</span></label
      >
    {/each}
    <NumberField
      label="Yokes touch at (°)"
      hint="from the part; single Cardan often 20 to 35"
      value={inputs.allowed.joint_limit_deg}
      optional
      ontyped={(value) => on.set(() => (inputs.allowed.joint_limit_deg = value))}
    />
  </div>
</details>
