const LONGEST_PX = 1280;

/** A picture made small enough to keep, as JPEG; null when the browser cannot open it. */
export async function shrunk(file: Blob): Promise<Blob | null> {
  try {
    const picture = await createImageBitmap(file);
    const scale = Math.min(1, LONGEST_PX / Math.max(picture.width, picture.height));
    const canvas = document.createElement("canvas");
    canvas.width = Math.round(picture.width * scale);
    canvas.height = Math.round(picture.height * scale);
    canvas.getContext("2d")?.drawImage(picture, 0, 0, canvas.width, canvas.height);
    return await new Promise((done) => canvas.toBlob(done, "image/jpeg", 0.82));
  } catch {
    return null;
  }
}

/** What a picture's content is known by. */
export async function digest(file: Blob): Promise<string> {
  if (crypto.subtle === undefined) return ""; // without TLS there is none: size and trial have to do
  const hash = await crypto.subtle.digest("SHA-256", await file.arrayBuffer());
  return Array.from(new Uint8Array(hash), (byte) => byte.toString(16).padStart(2, "0")).join("");
}
