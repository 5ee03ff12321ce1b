<script lang="ts">
  import type { DiffBench } from "./bench.svelte";
  import OneField from "./OneField.svelte";
  import type { Field, Row } from "./values";

  interface Props {
    on: DiffBench;
    field: Field;
  }
  let { on, field }: Props = $props();
  const rows = $derived((on.values[field.name] as Row[] | undefined) ?? []);
  const blank = () => Object.fromEntries(field.columns.map((column) => [column.name, column.begin]));
  const cell = (row: Row, name: string) => row[name] ?? "";
  const head = (column: Field["columns"][number]) =>
    column.unit ? `${column.label} (${column.unit})` : column.label;

  function set(index: number, name: string, value: string) {
    on.set(
      field.name,
      rows.map((row, at) => (at === index ? { ...row, [name]: value } : row)),
    );
  }
  const add = () => on.set(field.name, [...rows, blank()]);
  const remove = (index: number) =>
    on.set(
      field.name,
      rows.filter((_, at) => at !== index),
    );
</script>

<fieldset class="col-span-full min-w-0">
  <legend class="label-text">{field.label}</legend>
  {#if field.hint}<p class="quiet text-sm">{field.hint}</p>{/if}
  {#if rows.length > 0}
    <div class="relative overflow-x-auto">
      <table class="w-full">
        <thead>
          <tr class="quiet text-left text-sm">
            {#each field.columns as column (column.name)}<th scope="col" class="pr-2 font-normal"
                >{head(column)}</th
              >{/each}
            <th scope="col"><span class="sr-only">Remove</span></th>
          </tr>
        </thead>
        <tbody>
          {#each rows as row, index (index)}
            <tr>
              {#each field.columns as column (column.name)}
                <td class="py-0.5 pr-2 align-top">
                  <OneField
                    field={column}
                    value={cell(row, column.name)}
                    slip={on.slip(`${field.name}[${index}].${column.name}`)}
                    bare={`${head(column)}, row ${index + 1}`}
                    onset={(value) => set(index, column.name, value)}
                  />
                </td>
              {/each}
              <td class="py-0.5 align-top">
                <button type="button" class="btn btn-plain px-3" onclick={() => remove(index)}
                  ><span aria-hidden="true">×</span><span class="sr-only">Remove row {index + 1}</span
                  ></button
                >
              </td>
            </tr>
          {/each}
        </tbody>
      </table>
    </div>
  {/if}
  <button type="button" class="btn btn-plain mt-1" onclick={add}
    >Add a row<span class="sr-only">: {field.label}</span></button
  >
</fieldset>
