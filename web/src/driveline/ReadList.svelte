<script lang="ts">
  import type { Unit } from "../lib/units";
  import { gaugeOf, memberNames, valueOf, type Ask } from "./asks";
  import type { Inputs } from "./desk.svelte";

  interface Props {
    inputs: Inputs;
    asks: Ask[];
    ask: Ask;
    size: Unit;
    onpick: (ask: Ask) => void;
  }
  let { inputs, asks, ask, size, onpick }: Props = $props();
  const readings = $derived(inputs.readings);
  const WORD = {
    slope: "",
    length: "length",
    bearing: "centre bearing at",
    offset: "left offset",
    over: "over",
  } as const;
  const ENDS = { lower: "axle end lower", higher: "axle end higher" };
  const isOff = (member: number) =>
    asks.some((one) => one.member === member && one.kind === "offset" && valueOf(readings, one));
  // an offset that nobody read is no line of the list: the top view asks for it
  const rows = $derived(
    memberNames(readings)
      .map((name, member) => ({
        name,
        asks: asks.filter(
          (one) => one.member === member && ((one.kind !== "offset" && one.kind !== "over") || isOff(member)),
        ),
      }))
      .filter((row) => row.asks.length > 0),
  );

  function told(one: Ask): string {
    const value = valueOf(readings, one);
    if (value === null) return `${WORD[one.kind]} not measured`;
    if (one.kind !== "slope")
      return `${WORD[one.kind]} ${Number((value * size.per).toFixed(size.digits))} ${size.name}`;
    const gauge = gaugeOf(readings, one);
    const end = gauge?.axle_end ? `, ${ENDS[gauge.axle_end]}` : "";
    return `${Number(value.toFixed(2))}°${gauge?.reference === "plumb" ? " from plumb" : ""}${end}`;
  }
</script>

<table class="w-full">
  <caption class="figure mb-1 text-left text-lg">Readings</caption>
  <tbody>
    {#each rows as row (row.name)}
      <tr class="border-line border-t align-top">
        <th scope="row" class="py-2 pr-3 text-left font-semibold">{row.name}</th>
        <td>
          <span class="flex flex-wrap gap-x-3">
            {#each row.asks as one (one.key)}
              <button
                type="button"
                class={[
                  "min-h-touch text-left underline underline-offset-3",
                  one.key === ask.key && "decoration-next font-semibold decoration-4",
                ]}
                aria-label={`${one.label}: ${told(one)}. Edit`}
                aria-pressed={one.key === ask.key}
                onclick={() => onpick(one)}>{told(one)}</button
              >
            {/each}
          </span>
        </td>
      </tr>
    {/each}
  </tbody>
</table>
