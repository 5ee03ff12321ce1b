/** The bag or tray number of a label: out of the address that its code holds, or as it was typed; null for anything else. */
export function bagIn(text: string): string | null {
  const said = text.trim();
  if (/^[\w-]{1,20}$/.test(said)) return said;
  try {
    const bag = new URL(said).searchParams.get("bag");
    return bag !== null && /^[\w-]{1,20}$/.test(bag) ? bag : null;
  } catch {
    return null;
  }
}
