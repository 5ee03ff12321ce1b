import { ask, sentence } from "../api/client";

/**
 * What the server works out of what is on the screen, asked again when that changes; an answer that comes late does not count.
 * Made while a component is set up; `body` is null while there is nothing to ask.
 */
export class WorkedOut<Body, Value> {
  value = $state.raw<Value | null>(null);
  wrong = $state<string | null>(null);

  constructor(body: () => Body | null, call: (body: Body) => Parameters<typeof ask<Value>>[0]) {
    $effect(() => {
      const given = body();
      this.value = null;
      this.wrong = null;
      if (given === null) return;
      let gone = false;
      void ask(call(given)).then((answer) => {
        if (gone) return;
        if (answer.kind === "done") this.value = answer.value;
        else this.wrong = sentence(answer);
      });
      return () => (gone = true);
    });
  }
}
