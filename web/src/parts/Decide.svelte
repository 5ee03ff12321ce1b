<script lang="ts">
  import { client, type Schemas } from "../api/client";
  import { getSession } from "../lib/context";
  import Field from "../lib/Field.svelte";
  import { WorkedOut } from "../lib/worked-out.svelte";
  import Camera from "./Camera.svelte";
  import DrawOn from "./DrawOn.svelte";
  import PartFacts from "./PartFacts.svelte";
  import { titled, type Part, type WallOnScreen } from "./wall.svelte";
  import { pricedOf, questionOf, type Priced } from "./ways";
  import Ways from "./Ways.svelte";

  interface Props {
    on: WallOnScreen;
    picked: string | null;
  }
  let { on, picked = $bindable() }: Props = $props();
  const session = getSession();
  const wall = $derived(on.wall);
  const part = $derived<Part | null>(picked === null ? null : on.part(picked));
  const group = $derived(wall?.classes.find((one) => one.kind === part?.kind));
  const word = $derived(new Map((wall?.findings ?? []).map((one) => [one.code, one])));
  const known = $derived(group?.findings ?? (wall?.findings ?? []).map((one) => one.code));
  const DECISIONS = [
    { code: "good", word: "Good" },
    { code: "clean", word: "Clean up" },
    { code: "repair", word: "Repair" },
    { code: "replace", word: "Replace" },
  ] as const;

  let findings = $state<string[]>([]);
  let decision = $state<Schemas["LookIn"]["decision"]>("");
  let measured = $state("");
  let note = $state("");
  let photo = $state<string | null>(null);
  let drawn = $state.raw<Schemas["DrawnIn"][]>([]);
  let priced = $state<Priced>({ hourly: null, ways: [] });
  let way = $state("");
  let missing = $state("");
  let reason = $state("");
  let inHand = "";

  $effect(() => {
    const now = `${part?.key ?? ""} ${part?.seen?.id ?? ""}`;
    if (now === inHand) return;
    inHand = now;
    const seen = part?.seen ?? null;
    findings = [...(seen?.findings ?? [])];
    decision = seen?.decision ?? "";
    measured = seen?.measured ?? "";
    note = seen?.note ?? "";
    photo = seen?.photo ?? part?.photos.at(-1) ?? null;
    drawn = (seen?.drawn ?? []) as unknown as Schemas["DrawnIn"][];
    priced = pricedOf(seen?.ways ?? null);
    way = seen?.way ?? "";
    missing = part?.pieces ? String(part.pieces.missing) : "";
  });
  // a picture that has just come is the one to draw on
  $effect(() => {
    const last = part?.photos.at(-1) ?? null;
    if (photo === null && last !== null) photo = last;
  });

  const facts = $derived(Object.fromEntries((wall?.build ?? []).map((fact) => [fact.name, fact.value])));
  const looked = new WorkedOut(
    () =>
      part !== null && !part.key.startsWith("own_") && part.drawn !== null && findings.length > 0
        ? { build: facts as never, key: part.key, findings: [...findings] }
        : null,
    (body) => client.POST("/api/v1/compute/parts.look", { body }),
  );
  const advice = $derived(looked.value);
  const pieces = $derived(findings.some((code) => word.get(code)?.pieces));

  /** what wants a look comes first, then what was found bad, what is not decided, and what is good */
  const rank = (one: Part) =>
    one.look_at !== "" ? 0 : one.seen === null ? 2 : one.seen.decision === "good" ? 3 : 1;
  const list = $derived(
    (wall?.parts ?? [])
      .filter((one) => one.state !== "on" || one.seen !== null || (one.look_at !== "" && one.planned))
      .map((one) => ({ one, rank: rank(one) }))
      .sort((a, b) => a.rank - b.rank)
      .map(({ one }) => one),
  );
  const rest = $derived((wall?.parts ?? []).filter((one) => !list.includes(one)));

  async function save(event: SubmitEvent) {
    event.preventDefault();
    if (part === null) return;
    const seen = {
      key: part.key,
      findings,
      decision,
      measured,
      photo: drawn.length > 0 || photo !== part.photos.at(-1) ? photo : null,
      drawn: drawn.length > 0 ? drawn : [],
      ways: questionOf(priced) as Record<string, unknown> | null,
      way: questionOf(priced) === null ? "" : way,
      note,
    };
    const { key } = part;
    // what the wall answers fills the form again
    const typed = pieces ? missing.trim() : "";
    if (!(await on.look(seen))) return;
    if (typed !== "" && !(await countPieces(key, false, typed))) return;
    picked = null;
  }
  async function undoPicture() {
    if (photo === null || !(await on.undo(photo))) return;
    drawn = [];
    photo = part?.photos.at(-1) ?? null;
  }
  async function countPieces(key: string, givenUp: boolean, typed = missing): Promise<boolean> {
    const count = Number(typed);
    if (!Number.isInteger(count) || count < 0) {
      on.wrong = "The number of missing pieces must be a whole number.";
      return false;
    }
    return on.pieces({ key, missing: count, given_up: givenUp, note: reason });
  }
</script>

{#if wall && part}
  <button type="button" class="btn btn-plain btn-sm mb-3" onclick={() => (picked = null)}>All parts</button>
  <form class="gap-8 lg:grid lg:grid-cols-2" onsubmit={save}>
    <div class="grid content-start gap-4">
      <h2 class="text-2xl">{titled(part.name)}</h2>
      <fieldset>
        <legend class="label-text">What is seen</legend>
        <div class="flex flex-wrap gap-2">
          {#each known as code (code)}
            <button
              type="button"
              class={["btn", findings.includes(code) ? "btn-neutral" : "btn-plain"]}
              aria-pressed={findings.includes(code)}
              onclick={() =>
                (findings = findings.includes(code)
                  ? findings.filter((one) => one !== code)
                  : [...findings, code])}>{titled(word.get(code)?.word ?? code)}</button
            >
          {:else}
            <p>Never used again: a new one goes on.</p>
          {/each}
        </div>
      </fieldset>
      {#if group?.decides}<p class="quiet">Decided by: {group.decides}</p>{/if}
      <Field label="Measured (optional)" hint="Value with its unit, and where">
        <input class="input w-full" maxlength="200" bind:value={measured} />
      </Field>
      {#if on.wall}
        <a
          class="btn btn-plain justify-self-start"
          href={`/jobs/${on.wall.job_id}/work/${on.wall.work_id}/diff-bench`}>Measure on the Diff bench</a
        >
      {/if}
      {#if advice}
        <div class="border-secondary bg-base-200 border-l-4 px-3 py-2" aria-live="polite">
          <p>
            <strong>Usually: {advice.word}.</strong>
            {advice.why}
          </p>
          {#each advice.then as one (one)}<p>{one}</p>{/each}
          {#if advice.look_at.length > 0}
            <p>Look at: {advice.look_at.map((one) => one.name).join(", ")}.</p>
          {/if}
        </div>
      {/if}
      <fieldset>
        <legend class="label-text">Decision</legend>
        <div class="grid grid-cols-2 gap-2 sm:grid-cols-4">
          {#each DECISIONS as one (one.code)}
            <label class={["btn", decision === one.code ? "btn-neutral" : "btn-plain"]}>
              <input class="sr-only" type="radio" name="decision" value={one.code} bind:group={decision} />
              {one.word}
            </label>
          {/each}
        </div>
      </fieldset>
      {#if pieces || part.pieces}
        <fieldset class="grid gap-2">
          <legend class="label-text">Pieces</legend>
          <p>Lay the pieces out and put them together. What is missing is still in the housing or a tube.</p>
          <Field label="Pieces missing">
            <input class="input figure w-28 text-xl" inputmode="numeric" maxlength="4" bind:value={missing} />
          </Field>
          {#if part.pieces}
            <p>
              <strong
                >{part.pieces.given_up
                  ? `${part.pieces.missing} given up by ${part.pieces.by_name}: ${part.pieces.note}`
                  : part.pieces.missing > 0
                    ? `${part.pieces.missing} missing: nothing is closed before they are found`
                    : "All accounted for"}</strong
              >
            </p>
            {#if part.pieces.missing > 0 && !part.pieces.given_up}
              <div class="flex flex-wrap items-end gap-2">
                <button
                  type="button"
                  class="btn btn-plain"
                  disabled={on.busy}
                  onclick={() => {
                    missing = "0";
                    void countPieces(part.key, false);
                  }}>All found</button
                >
                {#if session.me?.role === "foreman"}
                  <Field label="Reason for giving them up"
                    ><input class="input w-full" maxlength="400" bind:value={reason} /></Field
                  >
                  <button
                    type="button"
                    class="btn btn-plain"
                    disabled={on.busy}
                    onclick={() => void countPieces(part.key, true)}>Give them up</button
                  >
                {/if}
              </div>
            {/if}
          {/if}
        </fieldset>
      {/if}
      <Field label="Note"><input class="input w-full" maxlength="400" bind:value={note} /></Field>
      <button class="btn btn-primary justify-self-start" disabled={on.busy || wall.signed}>Save</button>
    </div>
    <div class="grid content-start gap-4 max-lg:mt-6">
      {#if photo}
        <DrawOn
          src={`/api/v1/part-photos/${photo}`}
          alt={`Picture of ${part.name}`}
          {drawn}
          ondrawn={(shapes) => (drawn = shapes)}
        />
      {/if}
      {#if photo && !wall.signed}
        <button
          type="button"
          class="btn btn-plain btn-sm min-h-touch justify-self-start"
          disabled={on.busy}
          onclick={() => void undoPicture()}>Undo picture</button
        >
      {/if}
      <Camera label="Picture" onpicture={(file) => void on.addPhoto(part.key, file)} />
      {#if decision === "repair" || decision === "replace"}
        <Ways
          bind:priced
          {way}
          onway={(name) => (way = name)}
          offered={[...(group?.ways ?? []), `new ${part.name.split(",")[0]}`]}
        />
      {/if}
    </div>
  </form>
{:else if wall}
  <ul class="grid gap-x-8 lg:grid-cols-2">
    {#each list as one (one.key)}
      <li class="border-line border-t py-2">
        <PartFacts part={one} unit={session.me?.length_unit ?? "mm"}>
          {#if one.look_at}<span class="w-full max-sm:order-first sm:max-w-60"
              ><strong>Look at it.</strong> {titled(one.look_at)}</span
            >{/if}
          {#if one.pieces && one.pieces.missing > 0 && !one.pieces.given_up}<strong class="w-full"
              >{one.pieces.missing} {one.pieces.missing === 1 ? "piece" : "pieces"} missing</strong
            >{/if}
          <button type="button" class="btn btn-plain btn-sm" onclick={() => (picked = one.key)}
            >{one.seen ? "Decide again" : "Decide"}<span class="sr-only">: {one.name}</span></button
          >
        </PartFacts>
      </li>
    {:else}
      <li class="quiet max-w-prose py-3">
        Nothing is off yet. Look at every part before it is washed: teeth, bearings, splines, seal surfaces,
        the magnet. Each gets good, clean up, repair or replace.
      </li>
    {/each}
  </ul>
  <div class="mt-4 max-w-md">
    <Field label="A part that is still on">
      <select
        class="select w-full"
        value=""
        onchange={(event) => {
          picked = event.currentTarget.value || null;
        }}
      >
        <option value="">choose</option>
        {#each rest as one (one.key)}<option value={one.key}>{one.name}</option>{/each}
      </select>
    </Field>
  </div>
{/if}
