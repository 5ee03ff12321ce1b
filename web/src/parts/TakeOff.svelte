<script lang="ts">
  import Field from "../lib/Field.svelte";
  import { getSession } from "../lib/context";
  import Camera from "./Camera.svelte";
  import Held from "./Held.svelte";
  import PartFacts from "./PartFacts.svelte";
  import type { Queued } from "./queue";
  import { SIDES } from "./sides";
  import {
    NOTHING_TAKEN,
    nextOff,
    ownKey,
    titled,
    type Part,
    type Taken,
    type WallOnScreen,
  } from "./wall.svelte";

  interface Props {
    on: WallOnScreen;
    /** look at how the assembly is built */
    onbuild: () => void;
    /** a part that was picked elsewhere */
    picked: string | null;
    onscan: () => void;
    /** number of a bag that was scanned for the part in hand */
    bag: string;
  }
  let { on, onbuild, picked = $bindable(), onscan, bag = $bindable() }: Props = $props();
  const session = getSession();
  const wall = $derived(on.wall);
  const held = $derived(on.heldKeys);
  const suggested = $derived(wall ? nextOff(wall, held) : null);
  const part = $derived<Part | null>(picked === null ? suggested : (on.part(picked) ?? suggested));
  /** the record that is corrected, where the part in hand is off already */
  const correcting = $derived(part?.state === "off" ? part.off : null);

  let typedName = $state("");
  let more = $state({ facing: "", mark: "", counted: "", stack: "", note: "" });
  let damaged = $state("");
  let nextPiece = $state("");
  let side = $state<Taken["side"]>("");
  let open = $state(false);
  /** a count over what there should be was asked about, and is taken now */
  let sure = false;
  let inHand = "";

  // another part in hand begins with nothing said, or with what was said of it when it came off
  $effect(() => {
    const now = `${part?.key ?? ""} ${correcting?.id ?? ""}`;
    if (now === inHand) return;
    inHand = now;
    more = {
      facing: correcting?.facing ?? "",
      mark: correcting?.mark ?? "",
      counted: correcting?.counted?.toString() ?? "",
      stack: correcting?.stack.map((one) => one.entered).join(" + ") ?? "",
      note: correcting?.note ?? "",
    };
    damaged = (correcting?.stack ?? []).flatMap((one, at) => (one.damaged ? [at + 1] : [])).join(", ");
    bag = correcting?.bag ?? "";
    open = correcting !== null || part === null;
  });

  const list = $derived((wall?.parts ?? []).filter((one) => one.state !== "off" && !held.includes(one.key)));
  const off = $derived(
    (wall?.parts ?? [])
      .filter((one) => one.state === "off")
      .sort((a, b) => (b.off?.order ?? 0) - (a.off?.order ?? 0)),
  );

  function addPiece(event: KeyboardEvent) {
    if (event.key !== "Enter" || nextPiece.trim() === "") return;
    event.preventDefault();
    more.stack = [more.stack.trim(), nextPiece.trim()].filter(Boolean).join(" + ");
    nextPiece = "";
  }

  /** What was refused stands in the form again, as it was typed. */
  function again(one: Queued) {
    const was = one.body as unknown as Taken;
    const known = on.part(one.key);
    picked = known ? one.key : null;
    typedName = known ? "" : (was.name ?? "");
    inHand = `${one.key} ${known?.state === "off" ? (known.off?.id ?? "") : ""}`;
    more = {
      facing: was.facing ?? "",
      mark: was.mark ?? "",
      counted: was.counted?.toString() ?? "",
      stack: was.stack ?? "",
      note: was.note ?? "",
    };
    damaged = (was.damaged ?? []).map((at) => at + 1).join(", ");
    bag = was.bag ?? "";
    sure = one.wrong !== null && one.code === "more_than_there_are";
    void on.drop(one.seq);
    window.scrollTo({ top: 0 });
  }

  async function take(withPicture: Blob[] = []) {
    const name = typedName.trim();
    // a picture alone is enough where nothing more is planned
    const key = name !== "" || part === null ? ownKey() : part.key;
    const given = {
      ...NOTHING_TAKEN,
      key,
      name,
      side: name !== "" ? side : ((part?.key.split(".")[1] ?? "") as Taken["side"]),
      facing: more.facing,
      mark: more.mark,
      bag,
      counted: more.counted.trim() === "" ? null : Number(more.counted),
      stack: [more.stack.trim(), nextPiece.trim()].filter(Boolean).join(" + "),
      damaged: damaged
        .split(/[\s,]+/)
        .filter(Boolean)
        .map((at) => Number(at) - 1),
      note: more.note,
      replaces: name === "" ? (correcting?.id ?? null) : null,
      sure,
    };
    if (given.counted !== null && !Number.isInteger(given.counted)) {
      on.wrong = "The count must be a whole number.";
      return;
    }
    if (given.damaged.some((at) => !Number.isInteger(at) || at < 0)) {
      on.wrong = "Damaged: give the places in the stack, such as 1, 3.";
      return;
    }
    typedName = "";
    nextPiece = "";
    sure = false;
    side = "";
    picked = null;
    inHand = "";
    open = false;
    await on.takeOff(given, withPicture);
  }
</script>

{#if wall}
  <div class="gap-8 lg:grid lg:grid-cols-[minmax(0,26rem)_minmax(0,1fr)]">
    <form
      class="grid content-start gap-3"
      onsubmit={(event) => {
        event.preventDefault();
        void take();
      }}
    >
      <div>
        <p class="quiet">{correcting ? "Correct the record of" : picked ? "Part in hand" : "Next off"}</p>
        <h2 class="text-2xl" aria-live="polite">
          {typedName.trim() || (part ? titled(part.name) : "Everything planned is off")}
        </h2>
        {#if wall.guessed && off.length + held.length === 0}
          <p class="quiet">
            The parts follow from how it is built, {wall.taken_over
              ? "as on its last visit."
              : "as the sheet says."}
            <button type="button" class="min-h-touch underline underline-offset-3" onclick={onbuild}
              >Check how it is built</button
            >
          </p>
        {/if}
        {#if part && typedName.trim() === ""}
          {#if part.trap}<p><strong>{part.trap}</strong></p>{/if}
          {#if part.one_time === "always"}<p class="quiet">Used once: a new one goes back.</p>{/if}
          {#if part.suggested_mark}<p class="quiet">Mark: {part.suggested_mark}.</p>{/if}
          {#if part.after.some((key) => on.part(key)?.state === "on" && !held.includes(key))}
            <p>
              First off: {part.after
                .filter((key) => on.part(key)?.state === "on" && !held.includes(key))
                .map((key) => on.part(key)?.name)
                .join(", ")}.
            </p>
          {/if}
        {/if}
      </div>
      <Camera
        label="Picture, and off"
        onpicture={(file) => {
          if (correcting) void on.addPhoto(part?.key ?? "", file);
          else void take([file]);
        }}
      />
      <button class="btn btn-primary text-xl" disabled={part === null && typedName.trim() === ""}
        >{correcting ? "Save" : "Off"}</button
      >
      <div class="grid grid-cols-2 gap-3">
        <Field label="Bag or tray">
          <input class="input figure w-full text-xl" maxlength="20" inputmode="numeric" bind:value={bag} />
        </Field>
        <button type="button" class="btn btn-plain self-end" onclick={onscan}>Scan a label</button>
      </div>
      {#if part && (part.stacked || more.stack !== "") && typedName.trim() === ""}
        <Field label="Stack, outermost first" hint="Thickness each, such as 0.50 mm + 0.34 mm">
          <input
            class="input figure w-full text-xl"
            maxlength="200"
            autocomplete="off"
            bind:value={more.stack}
          />
        </Field>
        <Field label="Next piece (optional)" hint="Enter adds it: from a gauge that types, one after another">
          <input
            class="input figure w-full text-xl"
            maxlength="20"
            autocomplete="off"
            bind:value={nextPiece}
            onkeydown={addPiece}
          />
        </Field>
        <Field label="Damaged, by place in the stack (optional)" hint="Such as 1, 3">
          <input class="input w-full" maxlength="60" autocomplete="off" bind:value={damaged} />
        </Field>
      {/if}
      {#if part && (part.wants_count || more.counted !== "") && typedName.trim() === ""}
        <Field
          label="Counted"
          hint={part.count
            ? `There should be ${part.count}.`
            : "Loose ones are counted before they are lost."}
        >
          <input
            class="input figure w-32 text-xl"
            inputmode="numeric"
            maxlength="5"
            autocomplete="off"
            bind:value={more.counted}
          />
        </Field>
      {/if}
      <details bind:open>
        <summary class="min-h-touch flex cursor-pointer items-center underline underline-offset-3"
          >Way up, mark, note, another part</summary
        >
        <div class="grid gap-3 pb-2">
          <Field label="Which way up or round">
            <input class="input w-full" maxlength="80" bind:value={more.facing} />
          </Field>
          <fieldset>
            <legend class="label-text">Mark</legend>
            <div class="flex flex-wrap gap-2">
              {#each ["one dot", "two dots", "A", "B", "white paint", "yellow paint"] as mark (mark)}
                <button
                  type="button"
                  class={["btn btn-sm", more.mark === mark ? "btn-neutral" : "btn-plain"]}
                  aria-pressed={more.mark === mark}
                  onclick={() => (more.mark = more.mark === mark ? "" : mark)}>{mark}</button
                >
              {/each}
            </div>
            <input
              class="input mt-2 w-full"
              maxlength="40"
              aria-label="Mark in words"
              placeholder="or in words"
              bind:value={more.mark}
            />
          </fieldset>
          <Field label="Note"><input class="input w-full" maxlength="400" bind:value={more.note} /></Field>
          <Field label="Another part of this assembly">
            <select
              class="select w-full"
              value={picked ?? ""}
              onchange={(event) => {
                picked = event.currentTarget.value || null;
                typedName = "";
              }}
            >
              <option value="">the next one</option>
              {#each list as one (one.key)}<option value={one.key}
                  >{one.name}{one.planned ? "" : " (not planned)"}</option
                >{/each}
            </select>
          </Field>
          <Field label="A part that is in no list">
            <input class="input w-full" maxlength="80" placeholder="its name" bind:value={typedName} />
          </Field>
          {#if typedName.trim() !== ""}
            <Field label="Side">
              <select class="select w-full" bind:value={side}>
                <option value="">none</option>
                {#each SIDES as { code, word } (code)}<option value={code}>{word}</option>{/each}
              </select>
            </Field>
          {/if}
          {#if typedName.trim() !== ""}<button class="btn btn-neutral">Off: {typedName.trim()}</button>{/if}
        </div>
      </details>
    </form>
    <section aria-labelledby="taken-off" class="max-lg:mt-6">
      <h2 id="taken-off" class="mb-2">
        Off: {off.length + held.length}
        <span class="quiet text-base font-normal">latest first</span>
      </h2>
      <Held {on} onagain={again} />
      <ol class="grid">
        {#each off as one (one.key)}
          <li class="border-line border-t py-2">
            <PartFacts part={one} unit={session.me?.length_unit ?? "mm"}>
              {#if !wall.signed}
                <button
                  type="button"
                  class="btn btn-plain btn-sm"
                  onclick={() => {
                    picked = one.key;
                    typedName = "";
                    window.scrollTo({ top: 0 });
                  }}>Edit<span class="sr-only">: {one.name}</span></button
                >
                <button
                  type="button"
                  class="btn btn-plain btn-sm"
                  disabled={on.busy}
                  onclick={() => one.off && void on.undo(one.off.id)}
                  >Undo<span class="sr-only">: {one.name}</span></button
                >
                {#each one.photos.slice(-1) as photo (photo)}
                  <button
                    type="button"
                    class="btn btn-plain btn-sm"
                    disabled={on.busy}
                    onclick={() => void on.undo(photo)}
                    >Undo picture<span class="sr-only">: {one.name}</span></button
                  >
                {/each}
              {/if}
            </PartFacts>
          </li>
        {:else}
          {#if held.length === 0}<li class="quiet max-w-prose">
              Take a picture of each part before it comes off, or press Off. Order is kept by itself. Bag
              numbers and marks can be added when the hands are clean.
            </li>{/if}
        {/each}
      </ol>
    </section>
  </div>
{/if}
