<script lang="ts">
  import { isActiveLink } from "sv-router";

  import type { Me } from "./api/client";
  import ShopChoice from "./account/ShopChoice.svelte";

  interface Props {
    me: Me;
    onsearch: () => void;
  }
  let { me, onsearch }: Props = $props();
  const areas = [
    { href: "/", name: "Floor", startsWith: false, wide: false },
    { href: "/jobs/new", name: "New job", startsWith: false, wide: false },
    { href: "/vehicles", name: "Vehicles", startsWith: true, wide: false },
    { href: "/stores", name: "Stores", startsWith: true, wide: false },
    // on a phone it is reached from the Floor, where there is room
    { href: "/diff-bench", name: "Diff bench", startsWith: false, wide: true },
  ];
  const shown = $derived(
    me.may.edit_job && me.looking_at !== 0 ? areas : areas.filter((area) => area.href !== "/jobs/new"),
  );
</script>

<header class="bar bg-neutral text-neutral-content">
  <div class="mx-auto flex max-w-[80rem] flex-wrap items-stretch gap-x-0.5 px-2 sm:px-5">
    <a
      href="/"
      class="min-h-touch mr-1 flex items-center gap-2 py-1 sm:mr-5"
      aria-label="Amber Pinion, to the Floor"
    >
      <svg width="26" height="26" viewBox="0 0 32 32" aria-hidden="true">
        <path d="M3 22 29 14v4.5L3 27.5Z" fill="currentColor" opacity=".55" />
        <path class="fill-primary" d="M7 9.5 25 5v9.5L7 19.5Z" />
      </svg>
      <span class="figure hidden text-xl sm:inline">Amber Pinion</span>
    </a>
    <nav aria-label="Areas" class="flex items-stretch">
      {#each shown as area (area.href)}
        <a
          href={area.href}
          class={[
            "figure min-h-touch flex items-center border-b-4 border-transparent px-1.5 pt-1 text-base whitespace-nowrap hover:bg-white/10 sm:px-4 sm:text-lg",
            area.wide && "max-sm:hidden",
          ]}
          {@attach isActiveLink({ className: "border-white!", startsWith: area.startsWith })}>{area.name}</a
        >
      {/each}
    </nav>
    {#if me.shops.length > 1}<ShopChoice {me} />{/if}
    <button
      class="min-h-touch ml-auto flex items-center gap-1.5 border-b-4 border-transparent px-2 pt-1 hover:bg-white/10"
      onclick={onsearch}
      ><svg
        width="18"
        height="18"
        viewBox="0 0 20 20"
        aria-hidden="true"
        fill="none"
        stroke="currentColor"
        stroke-width="2.4"><circle cx="8" cy="8" r="6" /><path d="M12.5 12.5 19 19" /></svg
      ><span class="max-sm:sr-only">Search</span></button
    >
    <a
      href="/you"
      class="min-h-touch flex items-center border-b-4 border-transparent px-2 pt-1 hover:bg-white/10"
      {@attach isActiveLink({ className: "border-white!" })}
    >
      <span class="hidden sm:inline">{me.display_name}</span><span class="sm:hidden">You</span>
    </a>
  </div>
</header>
