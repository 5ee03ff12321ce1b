/** Whether a key pressed anywhere belongs in the reading strip: the start of a number, and nobody else is being typed into. */
export function shouldCatch(
  event: Pick<KeyboardEvent, "key" | "ctrlKey" | "metaKey" | "altKey" | "target">,
): boolean {
  if (event.ctrlKey || event.metaKey || event.altKey || !/^[0-9.,]$/.test(event.key)) return false;
  const target = event.target as { tagName?: string; closest?: (selector: string) => unknown } | null;
  if (["INPUT", "TEXTAREA", "SELECT"].includes(target?.tagName ?? "")) return false;
  return !target?.closest?.("dialog");
}
