<script lang="ts">
  import { ask, client, type Schemas } from "../api/client";
  import Field from "../lib/Field.svelte";
  import Notice from "../lib/Notice.svelte";
  import { when } from "../lib/quantity";
  import TypedField from "../lib/TypedField.svelte";
  import VerdictMark from "../lib/VerdictMark.svelte";
  import type { DrivelineDesk } from "./desk.svelte";

  interface Props {
    on: DrivelineDesk;
    joints: number;
    may: boolean;
  }
  let { on, joints, may }: Props = $props();
  type Felt = Schemas["JointFelt"];
  const BLANK: Felt = {
    first_way: "not_tried",
    other_way: "not_tried",
    play: null,
    rust: null,
    clips: null,
    nipple: null,
    just_fitted: false,
  };
  let joint = $state(1);
  let felt = $state<Felt>({ ...BLANK });
  let judged = $state.raw<Schemas["JointJudged"] | null>(null);
  let decision = $state<Schemas["InspectionIn"]["decision"] | "">("");
  let note = $state("");
  let wrong = $state<string | null>(null);
  const FEEL = [
    { value: "not_tried", word: "not checked" },
    { value: "free", word: "free" },
    { value: "stiff", word: "stiff" },
    { value: "notchy", word: "notchy" },
  ] as const;
  const YES_NO = [
    { value: "", word: "not checked" },
    { value: "no", word: "no" },
    { value: "yes", word: "yes" },
  ] as const;
  const DECISIONS = [
    { value: "reuse", word: "Reuse" },
    { value: "mend", word: "Repair" },
    { value: "replace", word: "Replace" },
    { value: "look", word: "Check further" },
  ] as const;
  const mine = $derived((on.desk?.inspections ?? []).filter((one) => one.shaft === on.chain));
  const asWord = (value: string | undefined) => DECISIONS.find((one) => one.value === value)?.word ?? "";

  $effect(() => {
    const body = $state.snapshot(felt) as Felt;
    let gone = false;
    void ask(client.POST("/api/v1/compute/driveline.inspect_joint", { body })).then((answer) => {
      if (!gone && answer.kind === "done") judged = answer.value as Schemas["JointJudged"];
    });
    return () => (gone = true);
  });

  async function keep(event: SubmitEvent) {
    event.preventDefault();
    wrong = await on.inspect({
      shaft: on.chain,
      joint,
      felt: $state.snapshot(felt) as Felt,
      decision: decision === "" ? (judged?.decision ?? "look") : decision,
      note,
    });
    if (wrong !== null) return;
    felt = { ...BLANK };
    decision = "";
    note = "";
    joint = joint < joints ? joint + 1 : 1;
  }
</script>

<div class="grid grid-cols-[minmax(0,1fr)] gap-5">
  <form class="grid gap-3" aria-label="Joint by feel and by eye" onsubmit={keep}>
    <div class="grid grid-cols-2 gap-3 sm:grid-cols-4">
      <Field label="Joint, counted from the gearbox">
        <select class="select min-h-touch w-full" bind:value={joint}>
          {#each Array.from({ length: joints }, (_, index) => index + 1) as number (number)}<option
              value={number}>{number}</option
            >{/each}
        </select>
      </Field>
      {#each [{ key: "first_way", word: "Movement, one way" }, { key: "other_way", word: "Movement, other way" }] as const as field (field.key)}
        <Field label={field.word}>
          <select class="select min-h-touch w-full" bind:value={felt[field.key]}>
            {#each FEEL as one (one.value)}<option value={one.value}>{one.word}</option>{/each}
          </select>
        </Field>
      {/each}
      {#each [{ key: "play", word: "Play" }, { key: "rust", word: "Rust dust at a joint cap" }] as const as field (field.key)}
        <Field label={field.word}>
          <select
            class="select min-h-touch w-full"
            value={felt[field.key] === true ? "yes" : felt[field.key] === false ? "no" : ""}
            onchange={(event) => {
              const value = event.currentTarget.value;
              felt[field.key] = value === "" ? null : value === "yes";
            }}
          >
            {#each YES_NO as one (one.value)}<option value={one.value}>{one.word}</option>{/each}
          </select>
        </Field>
      {/each}
      <Field label="Circlips">
        <select
          class="select min-h-touch w-full"
          value={felt.clips ?? ""}
          onchange={(event) => {
            const value = event.currentTarget.value;
            felt.clips = value === "seated" || value === "not_seated" || value === "none" ? value : null;
          }}
        >
          <option value="">not checked</option><option value="seated">all seated</option><option
            value="not_seated">one is not seated</option
          ><option value="none">none fitted</option>
        </select>
      </Field>
      <Field label="Grease nipple">
        <select
          class="select min-h-touch w-full"
          value={felt.nipple ?? ""}
          onchange={(event) => {
            const value = event.currentTarget.value;
            felt.nipple =
              value === "reachable" || value === "not_reachable" || value === "none" ? value : null;
          }}
        >
          <option value="">not checked</option><option value="reachable">can be reached</option><option
            value="not_reachable">cannot be reached</option
          ><option value="none">none fitted</option>
        </select>
      </Field>
      <label class="min-h-touch flex items-center gap-3 self-end"
        ><input class="checkbox" type="checkbox" bind:checked={felt.just_fitted} /> just fitted</label
      >
    </div>
    {#if judged}
      <div role="status">
        <p class="figure flex items-center gap-2 text-2xl">
          <VerdictMark verdict={judged.verdict} size={26} />{asWord(judged.decision)}
        </p>
        <ul>
          {#each judged.reasons as reason (reason.code)}<li>{reason.text}</li>{/each}
        </ul>
      </div>
      <ul class="border-edge border-l-4 pl-3">
        {#each judged.cautions as caution (caution)}<li>{caution}</li>{/each}
      </ul>
    {/if}
    {#if may}
      <div class="grid items-end gap-3 sm:grid-cols-[14rem_minmax(0,1fr)_auto]">
        <Field label="Decision">
          <select class="select min-h-touch w-full" bind:value={decision}>
            <option value="">as proposed</option>
            {#each DECISIONS as one (one.value)}<option value={one.value}>{one.word}</option>{/each}
          </select>
        </Field>
        <TypedField label="Note (a reason if you decide otherwise)" bind:value={note} long />
        <button class="btn btn-plain" disabled={on.busy}>Save this joint</button>
      </div>
    {/if}
    <Notice text={wrong} />
  </form>
  <section aria-labelledby="inspected">
    <h2 id="inspected">Joints checked</h2>
    {#if mine.length === 0}<p class="quiet">
        None yet. With the propshaft out or a flange undone, move each joint by hand about both arms of its
        joint cross.
      </p>{/if}
    <ul>
      {#each mine as one (one.id)}
        <li class="border-line flex flex-wrap items-baseline gap-x-3 border-t py-1.5">
          <strong>Joint {one.joint}: {asWord(one.decision)}</strong>
          <span>{one.judged.reasons.map((reason) => reason.text).join(" ")}</span>
          {#if one.note}<span>Note: {one.note}</span>{/if}
          <span class="quiet text-sm">{one.by_name}, {when(one.at)}</span>
        </li>
      {/each}
    </ul>
  </section>
</div>
