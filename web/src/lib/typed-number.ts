/** A number as it was typed, with a decimal comma or a true minus too; null when it is none. */
export function typedNumber(text: string): number | null {
  const plain = text.trim().replace(",", ".").replace("−", "-");
  const found = Number(plain);
  return plain !== "" && Number.isFinite(found) ? found : null;
}
