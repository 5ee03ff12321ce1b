<script lang="ts">
  import { ask, client, sentence, type Schemas } from "../api/client";
  import { oddsWords } from "./odds";

  let rows = $state.raw<Schemas["OddsKeptOut"][] | null>(null);
  let wrong = $state<string | null>(null);

  async function look(open: boolean) {
    if (!open) return;
    const answer = await ask(client.GET("/api/v1/odds-kept"));
    if (answer.kind === "done") rows = answer.value;
    else wrong = sentence(answer);
  }
</script>

<details ontoggle={(event) => void look(event.currentTarget.open)}>
  <summary class="min-h-touch cursor-pointer py-2 font-semibold"
    >How good the estimates were in this workshop</summary
  >
  {#if wrong}<p role="alert">{wrong}</p>{/if}
  {#if rows && rows.length === 0}
    <p>No move in this workshop has been followed by backlash and both patterns yet.</p>
  {:else if rows}
    <table class="max-w-md">
      <thead
        ><tr class="quiet text-left"
          ><th scope="col" class="pr-6">Estimate</th><th scope="col" class="pr-6">Moves</th><th scope="col"
            >Came in</th
          ></tr
        ></thead
      >
      <tbody>
        {#each rows as row (row.percent)}
          <tr class="border-line border-t"
            ><th scope="row" class="pr-6 text-left font-normal">{oddsWords(row.percent)}</th><td class="pr-6"
              >{row.moves}</td
            ><td>{row.landed}</td></tr
          >
        {/each}
      </tbody>
    </table>
  {/if}
</details>
