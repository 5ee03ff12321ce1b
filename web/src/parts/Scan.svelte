<script lang="ts">
  import { onDestroy, onMount } from "svelte";

  import Dialog from "../lib/Dialog.svelte";
  import Field from "../lib/Field.svelte";
  import { bagIn } from "./labels";

  interface Props {
    onbag: (bag: string) => void;
    onclose: () => void;
  }
  let { onbag, onclose }: Props = $props();
  let video = $state<HTMLVideoElement>();
  let typed = $state("");
  let wrong = $state<string | null>(null);
  let stream: MediaStream | null = null;
  let left = false;

  type Read = (from: HTMLVideoElement) => Promise<string | null>;
  interface Detector {
    detect: (from: HTMLVideoElement) => Promise<{ rawValue: string }[]>;
  }

  /** The browser's own reader where it has one, else one that ships with the page. */
  async function reader(): Promise<Read> {
    const own = (globalThis as { BarcodeDetector?: new (of: object) => Detector }).BarcodeDetector;
    if (own) {
      const detector = new own({ formats: ["qr_code"] });
      return async (from) => (await detector.detect(from))[0]?.rawValue ?? null;
    }
    const { default: decode } = await import("qr/decode.js");
    const canvas = document.createElement("canvas");
    const draw = canvas.getContext("2d", { willReadFrequently: true });
    return async (from) => {
      canvas.width = from.videoWidth;
      canvas.height = from.videoHeight;
      draw?.drawImage(from, 0, 0);
      const image = draw?.getImageData(0, 0, canvas.width, canvas.height);
      try {
        return await Promise.resolve(image ? decode(image) : null);
      } catch {
        return null; // no code in this frame
      }
    };
  }

  onMount(() => {
    void (async () => {
      if (!("mediaDevices" in navigator)) return;
      try {
        stream = await navigator.mediaDevices.getUserMedia({ video: { facingMode: "environment" } });
      } catch {
        wrong = "The camera cannot be opened here. Type the number on the label.";
        return;
      }
      if (left) return stop();
      if (video) video.srcObject = stream;
      const read = await reader();
      while (!left) {
        if (video && video.videoWidth > 0) {
          const found = bagIn((await read(video)) ?? "");
          if (found !== null && !left) return onbag(found);
        }
        await new Promise((done) => setTimeout(done, 200));
      }
    })();
  });
  function stop() {
    for (const track of stream?.getTracks() ?? []) track.stop();
  }
  onDestroy(() => {
    left = true;
    stop();
  });
</script>

<Dialog title="Scan a label" {onclose}>
  <video bind:this={video} class="mb-3 h-52 w-full bg-black object-contain" autoplay playsinline muted
  ></video>
  {#if wrong}<p role="alert" class="mb-3">{wrong}</p>{/if}
  <form
    class="flex flex-wrap items-end gap-2"
    onsubmit={(event) => {
      event.preventDefault();
      const found = bagIn(typed);
      if (found === null) wrong = "Type the number on the label.";
      else onbag(found);
    }}
  >
    <Field label="Number on the label"
      ><input
        class="input figure w-36 text-2xl"
        inputmode="numeric"
        maxlength="20"
        bind:value={typed}
      /></Field
    >
    <button class="btn btn-neutral">Open</button>
    <button type="button" class="btn btn-plain" onclick={onclose}>Cancel</button>
  </form>
</Dialog>
