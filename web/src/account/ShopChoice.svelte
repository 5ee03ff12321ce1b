<script lang="ts">
  import { client, sentence, type Me } from "../api/client";
  import { getSession } from "../lib/context";
  import { UnansweredIds } from "../lib/ids";
  import { writeOnce } from "../lib/writes";

  interface Props {
    me: Me;
  }
  let { me }: Props = $props();
  const session = getSession();
  const unanswered = new UnansweredIds();
  let wrong = $state<string | null>(null);

  async function lookAt(looking_at: number) {
    const answer = await writeOnce(unanswered, "look", { looking_at }, (body) =>
      client.PATCH("/api/v1/me", { body: { ...body, length_unit: null, torque_unit: null } }),
    );
    wrong = answer.kind === "done" ? null : sentence(answer);
    if (answer.kind !== "done") return;
    session.take(answer.value);
    // whatever is open may belong to another workshop
    window.location.assign("/");
  }
</script>

<label class="min-h-touch flex items-center pl-2">
  <span class="sr-only">Workshop that you look at</span>
  <select
    class="select select-sm text-base-content w-36 sm:w-56"
    value={String(me.looking_at)}
    title={wrong}
    onchange={(event) => void lookAt(Number(event.currentTarget.value))}
  >
    <option value="0">All workshops</option>
    {#each me.shops as shop (shop.id)}<option value={String(shop.id)}>{shop.name}</option>{/each}
  </select>
</label>
{#if wrong}<span role="alert" class="sr-only">{wrong}</span>{/if}
