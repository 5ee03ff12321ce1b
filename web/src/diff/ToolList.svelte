<script lang="ts">
  import type { Tool } from "./values";

  interface Props {
    tools: Tool[];
    code: string;
    onpick: (code: string) => void;
  }
  let { tools, code, onpick }: Props = $props();
  const groups = $derived(
    [...new Set(tools.map((one) => one.group))].map((group) => ({
      group,
      tools: tools.filter((one) => one.group === group),
    })),
  );
</script>

<label class="grid gap-1 lg:hidden">
  <span class="label-text">Tool</span>
  <select class="select w-full" value={code} onchange={(event) => onpick(event.currentTarget.value)}>
    {#each groups as one (one.group)}
      <optgroup label={one.group}>
        {#each one.tools as tool (tool.code)}<option value={tool.code}>{tool.title}</option>{/each}
      </optgroup>
    {/each}
  </select>
</label>
<nav class="max-lg:hidden" aria-label="Tools">
  {#each groups as one (one.group)}
    <h2 class="quiet mt-3 text-base! first:mt-0">{one.group}</h2>
    <ul>
      {#each one.tools as tool (tool.code)}
        <li>
          <button
            type="button"
            class={[
              "min-h-9 w-full border-l-4 px-2 text-left leading-tight",
              tool.code === code
                ? "border-base-content bg-base-200 font-semibold"
                : "hover:bg-base-200 border-transparent",
            ]}
            aria-current={tool.code === code ? "true" : undefined}
            onclick={() => onpick(tool.code)}>{tool.title}</button
          >
        </li>
      {/each}
    </ul>
  {/each}
</nav>
