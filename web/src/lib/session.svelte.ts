import { ask, client, type Me } from "../api/client";
import { setWriter } from "./envelope";

/** Who is signed in. One object for the whole application, handed down by context. */
export class Session {
  me = $state.raw<Me | null>(null);
  /** The login ended while somebody worked: ask for it again, keep the page. */
  ended = $state(false);
  loaded = $state(false);
  lost = $state(false);

  /** All workshops are looked at, so nothing new can belong to one. */
  readonly everywhere = $derived(this.me?.looking_at === 0);
  readonly unit = $derived(this.me?.length_unit ?? "mm");

  async load(): Promise<void> {
    const answer = await ask(client.GET("/api/v1/me"));
    this.lost = answer.kind === "lost";
    this.take(answer.kind === "done" ? answer.value : null);
    this.ended = false;
    this.loaded = true;
  }

  take(me: Me | null): void {
    this.me = me;
    setWriter(me);
    if (me !== null) this.ended = false;
  }

  end(): void {
    if (this.me !== null) this.ended = true;
  }

  async signOut(): Promise<void> {
    await ask(client.POST("/api/v1/sign-out"));
    this.me = null;
    this.ended = false;
  }
}
