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
    >What the odds were worth in this shop</summary
  >
  {#if wrong}<p role="alert">{wrong}</p>{/if}
  {#if rows && rows.length === 0}
    <p>No move of this shop has been read to its end yet: backlash and both patterns after it.</p>
  {:else if rows}
    <table class="max-w-md">
      <thead
        ><tr class="quiet text-left"
          ><th scope="col" class="pr-6">It said</th><th scope="col" class="pr-6">Moves</th><th scope="col"
            >Landed</th
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
