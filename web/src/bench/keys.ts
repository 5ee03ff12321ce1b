/** Whether a key pressed anywhere belongs in the reading strip: the start of a number, and nobody else is being typed into. */
export function shouldCatch(
  event: Pick<KeyboardEvent, "key" | "ctrlKey" | "metaKey" | "altKey" | "target">,
): boolean {
  if (event.ctrlKey || event.metaKey || event.altKey || !/^[0-9.,]$/.test(event.key)) return false;
  const target = event.target as { tagName?: string; closest?: (selector: string) => unknown } | null;
  if (["INPUT", "TEXTAREA", "SELECT"].includes(target?.tagName ?? "")) return false;
  return !target?.closest?.("dialog");
}

/** Whether a letter may answer a question: pressed without a modifier, in the empty strip or where nobody types. */
export function mayAnswer(
  event: Pick<KeyboardEvent, "key" | "ctrlKey" | "metaKey" | "altKey" | "target">,
  strip: EventTarget | null | undefined,
): boolean {
  if (event.ctrlKey || event.metaKey || event.altKey || !/^[a-z]$/i.test(event.key)) return false;
  const target = event.target as { tagName?: string; closest?: (selector: string) => unknown } | null;
  if (target !== strip && ["INPUT", "TEXTAREA", "SELECT"].includes(target?.tagName ?? "")) return false;
  return !target?.closest?.("dialog");
}
