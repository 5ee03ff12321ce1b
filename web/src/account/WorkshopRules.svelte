<script lang="ts">
  import { ask, client, sentence, type Me, type Schemas } from "../api/client";
  import Field from "../lib/Field.svelte";
  import { UnansweredIds } from "../lib/ids";
  import Notice from "../lib/Notice.svelte";
  import { when } from "../lib/quantity";
  import { ROLES } from "../lib/words";
  import { writeOnce } from "../lib/writes";

  interface Props {
    me: Me;
    ontaken: (me: Me) => void;
  }
  let { me, ontaken }: Props = $props();
  type Change = Partial<Pick<Schemas["ShopIn"], "foreman_signs" | "export_roles" | "name">>;
  type Role = Me["role"];
  // a foreman always may, so there is nothing to tick
  const EXPORTERS: Role[] = ["technician", "counter", "read_only"];
  let wrong = $state<string | null>(null);
  let rules = $state.raw<Schemas["RuleOut"][]>([]);
  const unanswered = new UnansweredIds();
  const exporting = $derived(me.shop.rule.export_roles);

  async function load() {
    const answer = await ask(client.GET("/api/v1/shop/rules"));
    if (answer.kind === "done") rules = answer.value;
  }
  void load();

  async function set(change: Change) {
    const answer = await writeOnce(unanswered, "shop", change, (body) =>
      client.PATCH("/api/v1/shop", { body: { reason: "", ...body } }),
    );
    wrong = answer.kind === "done" ? null : sentence(answer);
    if (answer.kind === "done") ontaken(answer.value);
    await load();
  }
  function told(rule: Schemas["RuleOut"]): string {
    const signs = rule.foreman_signs
      ? "A foreman who did not measure signs off"
      : "The person who measured may sign off";
    const others = EXPORTERS.filter((role) => rule.export_roles.includes(role));
    const files = others.length === EXPORTERS.length ? "everybody" : ["foreman", ...others].join(", ");
    return `${signs}; files: ${files.replaceAll("_", " ")}`;
  }
</script>

<section class="rule-top grid gap-3 pt-3">
  <h2>Workshop</h2>
  <Field label="Name of the workshop">
    <input
      class="input w-full"
      maxlength="120"
      value={me.shop.name}
      onchange={(event) => void set({ name: event.currentTarget.value })}
    />
  </Field>
  <label class="min-h-touch flex items-center gap-3">
    <input
      type="checkbox"
      class="checkbox checkbox-neutral"
      checked={me.shop.foreman_signs}
      onchange={(event) => void set({ foreman_signs: event.currentTarget.checked })}
    />
    <span>Only a foreman signs off, and never the person who measured</span>
  </label>
  <fieldset>
    <legend class="label-text">Who may export jobs, lists and results as files, besides a foreman</legend>
    <div class="flex flex-wrap gap-x-6">
      {#each EXPORTERS as role (role)}
        <label class="min-h-touch flex items-center gap-3">
          <input
            type="checkbox"
            class="checkbox checkbox-neutral"
            checked={exporting.includes(role)}
            onchange={(event) =>
              void set({
                export_roles: event.currentTarget.checked
                  ? [...exporting, role]
                  : exporting.filter((one) => one !== role),
              })}
          />
          {ROLES[role]}
        </label>
      {/each}
    </div>
  </fieldset>
  <Notice text={wrong} />
  {#if rules.length > 0}
    <details>
      <summary class="min-h-touch cursor-pointer py-2">Earlier settings</summary>
      <ul class="grid gap-1">
        {#each rules as rule, index (index)}
          <li>
            {told(rule)}
            <span class="quiet">{rule.by_name}{rule.at ? `, ${when(rule.at)}` : ""}</span>
          </li>
        {/each}
      </ul>
    </details>
  {/if}
  <a class="btn btn-plain justify-self-start" href="/people">People and logins</a>
</section>
