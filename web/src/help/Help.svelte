<script lang="ts">
  import type { Schemas } from "../api/client";
  import Dialog from "../lib/Dialog.svelte";
  import { navigate } from "../routes";
  import { find, findTerms, type Found } from "./find";
  import Glossary from "./Glossary.svelte";
  import KeyList from "./KeyList.svelte";
  import { placeFor, screenAt } from "./keys";
  import { termsIn } from "./terms-in";

  type Open = "search" | "keys" | "terms" | null;
  const GO_MS = 1500;
  const HOLD_MS = 600;
  const HOLD_PX = 10;

  let open = $state<Open>(null);
  let terms = $state.raw<Schemas["TermOut"][]>([]);
  let search = $state("");
  let found = $state.raw<Found[] | null>([]);
  let at = $state(0);
  let going = false;
  let asked = 0;
  let held: { timer: ReturnType<typeof setTimeout>; x: number; y: number } | null = null;

  /** Whether somebody is typing, or a dialog has the keyboard. */
  const busy = (target: EventTarget | null) =>
    target instanceof Element &&
    (target.closest("input, textarea, select, [contenteditable]") !== null ||
      target.closest("dialog") !== null);

  /** Whether a strip has the keyboard with nothing begun in it: empty, or its whole figure about to be replaced. */
  const idleStrip = (target: EventTarget | null) =>
    target instanceof HTMLInputElement &&
    target.dataset.strip !== undefined &&
    target.closest("dialog") === null &&
    target.selectionStart === 0 &&
    target.selectionEnd === target.value.length;

  function keys(event: KeyboardEvent) {
    if (event.ctrlKey || event.metaKey || event.altKey || event.defaultPrevented) return;
    if (busy(event.target) && !idleStrip(event.target)) return;
    if (going) {
      going = false;
      const href = placeFor(event.key, location.pathname);
      if (href !== null) {
        event.preventDefault();
        event.stopPropagation();
        void navigate(href as "/");
      }
      return;
    }
    if (event.key === "g") {
      going = true;
      setTimeout(() => (going = false), GO_MS);
    } else if (event.key === "/") show("search");
    else if (event.key === "?") show("keys");
    else if (event.key === "t") void onScreen();
    else return;
    event.preventDefault();
  }
  export function show(what: Open) {
    search = "";
    found = [];
    at = 0;
    open = what;
  }
  async function onScreen() {
    const all = (await findTerms("")) ?? [];
    terms = termsIn(document.querySelector("main")?.innerText ?? "", all);
    show("terms");
  }
  async function looked() {
    const mine = ++asked;
    const list = await find(search);
    if (mine !== asked) return;
    found = list;
    at = 0;
  }
  function choose(one: Found | undefined) {
    if (one === undefined) return;
    if (one.term !== null) {
      terms = [one.term];
      show("terms");
      return;
    }
    open = null;
    void navigate(one.href as "/");
  }
  function inSearch(event: KeyboardEvent) {
    const count = found?.length ?? 0;
    if (event.key === "ArrowDown" && count > 0) at = (at + 1) % count;
    else if (event.key === "ArrowUp" && count > 0) at = (at + count - 1) % count;
    else if (event.key === "Enter") choose(found?.[at]);
    else return;
    event.preventDefault();
  }

  /** The word under a finger, with its neighbours: a term may have several words. */
  function textAt(x: number, y: number): string {
    const place = document.caretRangeFromPoint(x, y);
    const node = place?.startContainer;
    if (!place || node?.nodeType !== Node.TEXT_NODE) return "";
    const text = node.textContent ?? "";
    const [before, after] = [text.slice(0, place.startOffset), text.slice(place.startOffset)];
    return `${/(\S+\s+){0,2}\S*$/.exec(before)?.[0] ?? ""}${/^\S*(\s+\S+){0,2}/.exec(after)?.[0] ?? ""}`;
  }
  function press(event: PointerEvent) {
    release();
    if (event.pointerType === "mouse" || busy(event.target)) return;
    if (event.target instanceof Element && event.target.closest("button, svg, [role=button]")) return;
    const { clientX: x, clientY: y } = event;
    held = { x, y, timer: setTimeout(() => void explain(textAt(x, y)), HOLD_MS) };
  }
  async function explain(text: string) {
    if (text === "") return;
    const meant = termsIn(text, (await findTerms("")) ?? []);
    if (meant.length === 0) return;
    terms = meant;
    show("terms");
  }
  function release() {
    if (held) clearTimeout(held.timer);
    held = null;
  }
  function moved(event: PointerEvent) {
    if (held && Math.hypot(event.clientX - held.x, event.clientY - held.y) > HOLD_PX) release();
  }
</script>

<svelte:window
  onkeydowncapture={keys}
  onpointerdown={press}
  onpointerup={release}
  onpointercancel={release}
  onpointermove={moved}
/>
{#if open === "search"}
  <Dialog title="Search" onclose={() => (open = null)}>
    <!-- svelte-ignore a11y_autofocus -->
    <input
      class="input mb-2 w-full"
      type="search"
      aria-label="Vehicle, job or term"
      placeholder="Vehicle, job or term"
      maxlength="100"
      autofocus
      role="combobox"
      aria-expanded={(found?.length ?? 0) > 0}
      aria-controls="found"
      aria-activedescendant={found?.[at] ? `found-${at}` : undefined}
      bind:value={search}
      oninput={() => void looked()}
      onkeydown={inSearch}
    />
    {#if found === null}<p>The connection is lost.</p>
    {:else if search.trim() !== "" && found.length === 0}<p>Nothing matches.</p>{/if}
    <ul id="found" role="listbox" aria-label="Results" class="max-h-[60vh] overflow-y-auto">
      {#each found ?? [] as one, index (one.group + one.key)}
        <li
          id={`found-${index}`}
          role="option"
          aria-selected={index === at}
          class={["min-h-touch border-line cursor-pointer border-t px-2 py-1", index === at && "bg-base-200"]}
          onclick={() => choose(one)}
          onkeydown={undefined}
        >
          <span class="quiet float-right text-sm"
            >{one.group === "Terms" ? "term" : one.group === "Jobs" ? "job" : "vehicle"}</span
          >
          <strong>{one.name}</strong>
          <span class="quiet block truncate text-sm">{one.more}</span>
        </li>
      {/each}
    </ul>
  </Dialog>
{:else if open === "keys"}
  <Dialog title="Keys" onclose={() => (open = null)}>
    <KeyList screen={screenAt(location.pathname)} path={location.pathname} />
    <p class="mt-4"><a href="/keys" onclick={() => (open = null)}>All keys, to print</a></p>
  </Dialog>
{:else if open === "terms"}
  <Dialog title={terms.length === 1 ? "Term" : "Terms"} onclose={() => (open = null)}>
    {#if terms.length === 0}<p>No term of the glossary is on this screen.</p>{:else}<Glossary {terms} />{/if}
    <p class="mt-4"><a href="/glossary" onclick={() => (open = null)}>Glossary</a></p>
  </Dialog>
{/if}
