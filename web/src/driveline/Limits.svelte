<script lang="ts">
  import type { Schemas } from "../api/client";
  import VerdictMark from "../lib/VerdictMark.svelte";
  import { VERDICT_WORDS } from "../lib/words";

  interface Props {
    limits: Schemas["HeldLimit"][];
    tried?: Schemas["HeldLimit"][] | null;
  }
  let { limits, tried = null }: Props = $props();
  const NATURE = { rule: "rule of thumb", formula: "worked out from a rule of thumb", maker: "maker's" };
  const said = (one: Schemas["HeldLimit"], value: number) =>
    one.unit === "deg" ? `${value.toFixed(1)}°` : `${value.toFixed(0)} rad/s²`;
  const bound = (one: Schemas["HeldLimit"]) =>
    `${one.side === "max" ? "up to" : "at least"} ${said(one, one.limit)}`;
  const then = (one: Schemas["HeldLimit"]) =>
    tried?.find((other) => other.name === one.name && other.place === one.place) ?? null;
  const order = { out: 0, edge: 1, unknown: 2, in: 3 };
  const rows = $derived([...limits].sort((a, b) => order[a.verdict] - order[b.verdict]));
</script>

<div class="relative overflow-x-auto" tabindex="-1">
  <table class="w-full sm:min-w-[34rem]">
    <thead
      ><tr class="quiet text-left"
        ><th scope="col">Quantity</th><th scope="col">Now</th>{#if tried}<th scope="col">With the remedy</th
          >{/if}<th scope="col" class="max-sm:hidden">Limit</th><th scope="col" class="max-sm:hidden"
          >Kind of limit</th
        ></tr
      ></thead
    >
    <tbody>
      {#each rows as one (one.name + one.place)}
        {@const after = then(one)}
        <tr class="border-line border-t">
          <th scope="row" class="py-1.5 pr-3 text-left font-normal"
            >{one.what}<span class="quiet block text-sm sm:hidden">{bound(one)}, {NATURE[one.status]}</span
            ></th
          >
          <td class="py-1.5 pr-3 sm:whitespace-nowrap">
            <span class="inline-flex flex-wrap items-center gap-x-1.5 sm:flex-nowrap"
              ><VerdictMark verdict={one.verdict} size={20} /><span class="figure text-lg"
                >{said(one, one.value)}</span
              ><span class="text-sm">{VERDICT_WORDS[one.verdict]}</span></span
            >
          </td>
          {#if tried}<td class="py-1.5 pr-3 sm:whitespace-nowrap"
              >{#if after}<span class="inline-flex flex-wrap items-center gap-x-1.5 sm:flex-nowrap"
                  ><VerdictMark verdict={after.verdict} size={20} /><span class="figure text-lg"
                    >{said(after, after.value)}</span
                  ><span class="text-sm">{VERDICT_WORDS[after.verdict]}</span></span
                >{/if}</td
            >{/if}
          <td class="py-1.5 pr-3 whitespace-nowrap max-sm:hidden">{bound(one)}</td>
          <td class="quiet py-1.5 text-sm max-sm:hidden">{NATURE[one.status]}</td>
        </tr>
      {/each}
    </tbody>
  </table>
</div>
