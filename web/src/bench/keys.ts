type Pressed = Pick<KeyboardEvent, "key" | "ctrlKey" | "metaKey" | "altKey" | "target">;

/** Whether a key was pressed without a modifier where nobody types: in no field but `strip`, and in no dialog. */
function free(event: Pressed, strip: EventTarget | null | undefined): boolean {
  if (event.ctrlKey || event.metaKey || event.altKey) return false;
  const target = event.target as { tagName?: string; closest?: (selector: string) => unknown } | null;
  const inField = ["INPUT", "TEXTAREA", "SELECT"].includes(target?.tagName ?? "");
  if (inField && target !== strip) return false;
  return !target?.closest?.("dialog");
}

/** Whether a key pressed anywhere belongs in the reading strip: the start of a number, and nobody else is being typed into. */
export function shouldCatch(event: Pressed): boolean {
  return /^[0-9.,]$/.test(event.key) && free(event, null);
}

/** Whether a letter may answer a question: pressed without a modifier, in the empty strip or where nobody types. */
export function mayAnswer(event: Pressed, strip: EventTarget | null | undefined): boolean {
  return /^[a-z]$/i.test(event.key) && free(event, strip);
}
