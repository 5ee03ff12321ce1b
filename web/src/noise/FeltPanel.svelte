<script lang="ts">
  import NumberField from "../lib/NumberField.svelte";
  import type { Unit } from "../lib/units";
  import type { FeltQuestion, NoiseFinder } from "./finder.svelte";

  interface Props {
    on: NoiseFinder;
    felt: FeltQuestion;
    speed: Unit;
  }
  let { on, felt, speed }: Props = $props();
  const QUALITIES = [
    { value: "pulse", word: "A slow pulse that could be counted" },
    { value: "buzz", word: "A buzz" },
    { value: "tone", word: "A tone" },
  ] as const;
  const LOADS = [
    { value: "drive", word: "on drive" },
    { value: "float", word: "floating" },
    { value: "overrun", word: "on overrun" },
  ] as const;
  const WHERES = [
    { value: "steering_wheel", word: "Steering wheel" },
    { value: "seat", word: "Seat" },
    { value: "floor", word: "Floor" },
    { value: "pedals", word: "Pedals, gear lever" },
    { value: "nowhere_special", word: "Heard more than felt" },
  ] as const;
  function set(change: () => void) {
    change();
    on.changed();
  }
  const tenth = (p: number) => (p < 0.05 ? "under 5 %" : `about ${Math.round(p * 10) * 10} %`);
  const suspects = $derived((on.answer?.suspects ?? []).slice(0, 6));
  const WORD: Record<string, string> = { likely: "Likely", possible: "Possible", unlikely: "Unlikely" };
  function toggle(load: (typeof LOADS)[number]["value"], ticked: boolean) {
    set(() => {
      const others = (felt.loads ?? []).filter((one) => one !== load);
      felt.loads = ticked ? [...others, load] : others;
    });
  }
</script>

<div class="grid grid-cols-[minmax(0,1fr)] gap-5">
  <form class="grid gap-3" aria-label="What is felt" onsubmit={(event) => event.preventDefault()}>
    {#each felt.tests as test, index (index)}
      <fieldset class="grid grid-cols-2 gap-2 sm:grid-cols-[repeat(4,minmax(0,1fr))]">
        <legend class="label-text">{index === 0 ? "Where it is worst" : `Drive ${index + 1}`}</legend>
        <NumberField
          label="Road speed"
          unit={speed}
          value={test.speed_kmh}
          ontyped={(value) => value !== null && set(() => (test.speed_kmh = value))}
        />
        <NumberField
          label="Gear ratio"
          hint="empty: in neutral"
          value={test.gear_ratio}
          digits={3}
          optional
          ontyped={(value) =>
            set(() => {
              test.gear_ratio = value;
              if (value !== null) test.engine_rpm = null;
            })}
        />
        <NumberField
          label="Counted (Hz)"
          hint="empty: not counted"
          value={test.f_hz}
          optional
          ontyped={(value) => set(() => (test.f_hz = value))}
        />
        <NumberField
          label="± (Hz)"
          value={test.sigma_hz}
          ontyped={(value) => value !== null && set(() => (test.sigma_hz = Math.abs(value)))}
        />
        {#if index > 0}<button
            class="min-h-touch justify-self-start underline underline-offset-3"
            onclick={() => set(() => (felt.tests = felt.tests.filter((_, at) => at !== index)))}
            >Remove drive {index + 1}</button
          >{/if}
      </fieldset>
    {/each}
    <button
      class="btn btn-plain btn-sm justify-self-start"
      onclick={() =>
        set(() => {
          const last = felt.tests.at(-1);
          if (last) felt.tests = [...felt.tests, { ...last, f_hz: null }];
        })}>Add a drive: same speed, another gear</button
    >
    <div class="grid gap-3 sm:grid-cols-3">
      <fieldset>
        <legend class="label-text">What does it feel like?</legend>
        {#each QUALITIES as one (one.value)}
          <label class="min-h-touch flex items-center gap-2"
            ><input
              class="radio"
              type="radio"
              name="quality"
              checked={felt.quality === one.value}
              onchange={() => set(() => (felt.quality = one.value))}
            />
            {one.word}</label
          >
        {/each}
      </fieldset>
      <fieldset>
        <legend class="label-text">When is it felt?</legend>
        {#each LOADS as one (one.value)}
          <label class="min-h-touch flex items-center gap-2"
            ><input
              class="checkbox"
              type="checkbox"
              checked={felt.loads?.includes(one.value) ?? false}
              onchange={(event) => toggle(one.value, event.currentTarget.checked)}
            />
            {one.word}</label
          >
        {/each}
      </fieldset>
      <fieldset>
        <legend class="label-text">Where is it felt most?</legend>
        {#each WHERES as one (one.value)}
          <label class="min-h-touch flex items-center gap-2"
            ><input
              class="radio"
              type="radio"
              name="where"
              checked={felt.where === one.value}
              onchange={() => set(() => (felt.where = one.value))}
            />
            {one.word}</label
          >
        {/each}
      </fieldset>
    </div>
  </form>
  {#if on.answer}
    {#if on.answer.made.length > 0}
      <ul aria-label="Checks made" class="flex flex-wrap gap-2">
        {#each on.answer.made as one (one.code)}
          <li class="border-base-content flex items-center gap-2 border-2 pl-2">
            {one.title}: it {one.result}
            <button
              class="min-h-touch px-2 underline underline-offset-3"
              onclick={() => on.takeBack(one.code)}>Undo<span class="sr-only"> {one.title}</span></button
            >
          </li>
        {/each}
      </ul>
    {/if}
    <section aria-labelledby="suspects">
      <h2 id="suspects">Possible causes</h2>
      <ol>
        {#each suspects as one, index (one.name)}
          <li class="border-line grid grid-cols-[5.5rem_minmax(0,1fr)] gap-x-3 border-t py-2">
            <span
              ><span class={["figure block", index === 0 ? "text-xl" : "text-lg"]}
                >{WORD[one.word] ?? one.word}</span
              >
              <span class="quiet text-sm">{tenth(one.probability)}</span></span
            >
            <span>
              <strong>{one.words}</strong>
              <span class="block">{one.reasons.join(" ")}</span>
            </span>
          </li>
        {/each}
      </ol>
      <p class="quiet text-sm">
        {#if on.answer.inseparable.length > 0}
          These have the same frequency, so counting cannot tell them apart: {on.answer.inseparable
            .map((group) => group.map((name) => name.replaceAll("_", " ")).join(" = "))
            .join("; ")}.
        {/if}
        How common each part is, under which loads and where it is felt comes from experience, not from measurement.
      </p>
    </section>
  {/if}
</div>
