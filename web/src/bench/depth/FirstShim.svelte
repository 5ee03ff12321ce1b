<script lang="ts">
  import { ask, client, sentence, type Bench } from "../../api/client";
  import Field from "../../lib/Field.svelte";
  import TypedField from "../../lib/TypedField.svelte";
  import Notice from "../../lib/Notice.svelte";
  import { shim, signed, UNIT_NAMES, type LengthUnit } from "../../lib/quantity";

  interface Props {
    bench: Bench;
    unit: LengthUnit;
  }
  let { bench, unit }: Props = $props();
  let old = $state("");
  let oldMark = $state<number | null>(null);
  let newMark = $state<number | null>(null);
  let markUnit = $state<"mm" | "hundredths_mm" | "thou">("hundredths_mm");
  let means = $state<"farther_is_plus" | "closer_is_plus" | "distance">("farther_is_plus");
  let oldHeight = $state("");
  let newHeight = $state("");
  let slinger = $state("");
  let wrong = $state<string | null>(null);
  type Found = {
    shim_mm: number;
    terms: { name: string; value_mm: number }[];
    reasons: { code: string; text: string }[];
  };
  let found = $state.raw<Found | null>(null);
  const TERMS: Record<string, string> = {
    old_shim: "the old shim",
    marks: "the two marks",
    bearing_height: "bearing heights",
    slinger: "slinger",
  };

  /** Typed lengths are read by the server, each in the person's unit or its own. */
  async function inMm(typed: string, name: string): Promise<number | null> {
    if (typed.trim() === "") return null;
    const answer = await ask(client.GET("/api/v1/typed-length", { params: { query: { typed } } }));
    if (answer.kind === "done" && answer.value.value_mm !== null) return answer.value.value_mm;
    throw new Error(answer.kind === "lost" ? sentence(answer) : `${name}: “${typed}” is not a length.`);
  }
  async function work(event: SubmitEvent) {
    event.preventDefault();
    found = wrong = null;
    try {
      const body = {
        old_shim_mm: (await inMm(old, "Old shim")) ?? 0,
        shim_place: bench.shim_place,
        old_mark: oldMark ?? 0,
        new_mark: newMark ?? 0,
        mark_unit: markUnit,
        mark_means: means,
        old_bearing_height_mm: await inMm(oldHeight, "Old bearing"),
        new_bearing_height_mm: await inMm(newHeight, "New bearing"),
        slinger_change_mm: (await inMm(slinger, "Slinger")) ?? 0,
      };
      const answer = await ask(client.POST("/api/v1/compute/depth.start", { body }));
      if (answer.kind === "done") found = answer.value as Found;
      else wrong = sentence(answer);
    } catch (trouble) {
      wrong = trouble instanceof Error ? trouble.message : String(trouble);
    }
  }
</script>

<section aria-labelledby="first-shim" class="rule-top pt-3">
  <h2 id="first-shim">First depth shim</h2>
  <p class="max-w-prose">
    From the old shim, the marks on both pinions and the bearing heights. After that the contact pattern
    decides. Unit when none is typed:
    {UNIT_NAMES[unit]}.
  </p>
  <form class="mt-2 grid max-w-3xl grid-cols-2 gap-3 sm:grid-cols-4" onsubmit={work}>
    <TypedField label="Old shim" bind:value={old} required />
    <Field label="Old pinion mark"
      ><input class="input w-full" type="number" step="any" bind:value={oldMark} /></Field
    >
    <Field label="New pinion mark"
      ><input class="input w-full" type="number" step="any" bind:value={newMark} /></Field
    >
    <Field label="Unit of the marks"
      ><select class="select w-full" bind:value={markUnit}
        ><option value="hundredths_mm">1/100 mm</option><option value="thou">thou</option><option value="mm"
          >mm</option
        ></select
      ></Field
    >
    <div class="col-span-2">
      <Field label="A + mark means"
        ><select class="select w-full" bind:value={means}
          ><option value="farther_is_plus">pinion farther from the ring gear axis</option><option
            value="closer_is_plus">pinion closer to the ring gear axis</option
          ><option value="distance">the mark is the distance itself</option></select
        ></Field
      >
    </div>
    <TypedField label="Old bearing height" bind:value={oldHeight} />
    <TypedField label="New bearing height" bind:value={newHeight} />
    <TypedField label="New slinger less old (thickness)" bind:value={slinger} signed />
    <div class="self-end"><button class="btn btn-plain">Calculate</button></div>
  </form>
  <div role="status" class="mt-3">
    {#if found}
      <p class="figure text-3xl">{shim(found.shim_mm, unit)}</p>
      <ul class="list-disc pl-5">
        {#each found.terms as term (term.name)}<li>
            {TERMS[term.name] ?? term.name.replaceAll("_", " ")}: {signed(term.value_mm, unit)}
          </li>{/each}
        {#each found.reasons as reason (reason.code + reason.text)}<li>{reason.text}</li>{/each}
      </ul>
    {/if}
  </div>
  <Notice text={wrong} />
</section>
