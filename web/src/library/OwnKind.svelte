<script lang="ts">
  import { untrack } from "svelte";

  import { ask, client, sentence, type Schemas } from "../api/client";
  import type { Kinds, Place } from "../job/kinds";
  import Field from "../lib/Field.svelte";
  import { newId, UnansweredIds } from "../lib/ids";
  import Notice from "../lib/Notice.svelte";
  import { writeOnce } from "../lib/writes";

  type Library = Schemas["LibraryOut"];
  interface Props {
    kinds: Kinds;
    /** the one to change; null for a new one */
    library: Library | null;
    onsaved: (library: Library) => void;
    onclose: () => void;
  }
  let { kinds, library, onsaved, onclose }: Props = $props();
  const unanswered = new UnansweredIds();
  const before = untrack(() => library?.made ?? null);
  const code = untrack(() => library?.kind) ?? `own_${newId().slice(0, 8)}`;
  let blocks = $state.raw<Schemas["BlockOut"][]>([]);
  let title = $state(before?.title ?? "");
  let about = $state(before?.about ?? "");
  let places = $state<Place[]>(before?.places ?? ["rear_axle"]);
  let chosen = $state<string[]>(before?.blocks ?? []);
  let reason = $state("");
  let wrong = $state<string | null>(null);

  async function load() {
    const answer = await ask(client.GET("/api/v1/blocks"));
    if (answer.kind === "done") blocks = answer.value;
    else wrong = sentence(answer);
  }
  void load();

  const everywhere = $derived(
    Object.values(kinds.places)
      .flat()
      .filter((one, index, all) => all.findIndex((other) => other.place === one.place) === index)
      .filter((one) => kinds.kinds.some((kind) => kind.places.includes(one.place))),
  );
  const fits = (block: Schemas["BlockOut"]) => places.every((place) => block.places.includes(place));
  const named = (wanted: string[]) =>
    wanted.map((one) => blocks.find((block) => block.code === one)?.title ?? one).join(", ");
  /** A block brings those along that it wants, and takes those with it that want it. */
  function choose(block: Schemas["BlockOut"], on: boolean) {
    const wants = (one: string) => blocks.find((each) => each.code === one)?.wants ?? [];
    const wanted = (one: string): string[] => [one, ...wants(one).flatMap(wanted)];
    chosen = blocks
      .map((one) => one.code)
      .filter((one) =>
        on
          ? chosen.includes(one) || wanted(block.code).includes(one)
          : chosen.includes(one) && !wanted(one).includes(block.code),
      );
  }

  async function save(event: SubmitEvent) {
    event.preventDefault();
    const given = {
      number: before?.number ?? 0,
      reason,
      title,
      about,
      places: $state.snapshot(places),
      blocks: $state.snapshot(chosen),
    };
    const answer = await writeOnce(unanswered, `own kind ${code}`, given, (body) =>
      client.PUT("/api/v1/kinds/{kind}", { params: { path: { kind: code } }, body }),
    );
    wrong = answer.kind === "done" ? null : sentence(answer);
    if (answer.kind === "done") onsaved(answer.value);
  }
</script>

<form class="rule-top grid gap-4 pt-4" aria-label="Own kind of work" onsubmit={save}>
  <h2>{before ? `Change ${before.title}` : "New kind of work"}</h2>
  <p class="quiet">
    It begins with the complaint and the stands and ends with proof and hand-over. What a block opens is
    closed again in reverse. Own steps can be added afterwards.
  </p>
  <div class="grid max-w-3xl gap-4 sm:grid-cols-2">
    <Field label="Name"><input class="input w-full" maxlength="80" required bind:value={title} /></Field>
    <Field label="When it is booked"><input class="input w-full" maxlength="200" bind:value={about} /></Field>
  </div>
  <fieldset>
    <legend class="label-text">Parts of the vehicle</legend>
    <div class="flex flex-wrap gap-x-5">
      {#each everywhere as one (one.place)}
        <label class="min-h-touch inline-flex items-center gap-2"
          ><input type="checkbox" class="checkbox" value={one.place} bind:group={places} />{one.label}</label
        >
      {/each}
    </div>
  </fieldset>
  <fieldset>
    <legend class="label-text">Blocks, in the order of the work</legend>
    <ul class="border-line border-t">
      {#each blocks as block (block.code)}
        {@const able = fits(block)}
        <li class="border-line border-b py-1">
          <label class={["min-h-touch flex items-start gap-3 py-1.5", !able && "quiet"]}>
            <input
              type="checkbox"
              class="checkbox mt-0.5"
              disabled={!able && !chosen.includes(block.code)}
              checked={chosen.includes(block.code)}
              onchange={(event) => choose(block, event.currentTarget.checked)}
            />
            <span class="min-w-0"
              ><span class="figure text-lg">{block.title}</span>
              <span class="quiet block text-sm">
                {able
                  ? `${block.steps.length} ${block.steps.length === 1 ? "step" : "steps"}${block.wants.length > 0 ? `; brings along: ${named(block.wants)}` : ""}`
                  : "Not done on every part that is ticked."}
              </span></span
            >
          </label>
        </li>
      {/each}
    </ul>
  </fieldset>
  {#if before}
    <div class="max-w-xl">
      <Field label="Reason for the change"
        ><input class="input w-full" maxlength="200" required bind:value={reason} /></Field
      >
    </div>
  {/if}
  <Notice text={wrong} />
  <div class="flex gap-2">
    <button class="btn btn-primary">Save</button>
    <button type="button" class="btn btn-plain" onclick={onclose}>Cancel</button>
  </div>
</form>
