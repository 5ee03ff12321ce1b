<script lang="ts">
  import { onDestroy } from "svelte";

  import { shrunk } from "../lib/photo";

  interface Props {
    /** a picture was taken or chosen, already made small */
    onpicture: (file: Blob) => void;
    label: string;
    main?: boolean;
    disabled?: boolean;
  }
  let { onpicture, label, main = false, disabled = false }: Props = $props();
  let video = $state<HTMLVideoElement>();
  let stream = $state.raw<MediaStream | null>(null);
  let wrong = $state<string | null>(null);
  const live = "mediaDevices" in navigator;

  async function open() {
    wrong = null;
    try {
      stream = await navigator.mediaDevices.getUserMedia({
        video: { facingMode: "environment", width: { ideal: 1600 } },
      });
    } catch {
      wrong = "The camera cannot be opened here. Choose a picture instead.";
    }
  }
  function close() {
    for (const track of stream?.getTracks() ?? []) track.stop();
    stream = null;
  }
  $effect(() => {
    if (video && stream) video.srcObject = stream;
  });
  onDestroy(close);

  async function shoot() {
    if (!video || video.videoWidth === 0) return;
    const canvas = document.createElement("canvas");
    canvas.width = video.videoWidth;
    canvas.height = video.videoHeight;
    canvas.getContext("2d")?.drawImage(video, 0, 0);
    const taken = await new Promise<Blob | null>((done) => canvas.toBlob(done, "image/jpeg", 0.85));
    if (taken) onpicture(taken);
  }
  async function chosen(event: Event) {
    const field = event.currentTarget as HTMLInputElement;
    const file = field.files?.[0];
    if (!file) return;
    const small = await shrunk(file);
    field.value = "";
    if (small === null)
      wrong = "This file cannot be opened as a picture. Use JPEG, PNG or WebP; a phone can be set to JPEG.";
    else {
      wrong = null;
      onpicture(small);
    }
  }
</script>

<div class="grid gap-2">
  {#if stream}
    <video bind:this={video} class="max-h-64 w-full bg-black object-contain" autoplay playsinline muted
    ></video>
  {/if}
  <div class="flex flex-wrap gap-2">
    {#if stream}
      <button
        type="button"
        class={["btn grow", main ? "btn-primary" : "btn-neutral"]}
        {disabled}
        onclick={() => void shoot()}>{label}</button
      >
      <button type="button" class="btn btn-plain" onclick={close}>Close the camera</button>
    {:else}
      {#if live}<button type="button" class="btn btn-plain" {disabled} onclick={() => void open()}
          >Open the camera</button
        >{/if}
      <label class={["btn btn-plain", disabled && "pointer-events-none opacity-60"]}>
        Choose a picture
        <input
          class="sr-only"
          type="file"
          accept="image/jpeg,image/png,image/webp"
          {disabled}
          onchange={chosen}
        />
      </label>
    {/if}
  </div>
  {#if wrong}<p role="alert" class="text-out font-semibold">{wrong}</p>{/if}
</div>
