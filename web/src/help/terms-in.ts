/** Which terms a text holds, longest names first; the server knows what each means. */

interface Named {
  name: string;
  also: string[];
}

const plain = (text: string) => text.toLowerCase().replace(/[-\s]+/g, " ");

/** Terms whose own name stands in the text, or, where none does, whose other names do; plural or not. */
export function termsIn<Term extends Named>(text: string, terms: readonly Term[]): Term[] {
  const within = ` ${plain(text)
    .replace(/[^a-z0-9' ]+/g, " ")
    .replace(/ +/g, " ")} `;
  const stands = (name: string) =>
    within.includes(` ${plain(name)} `) || within.includes(` ${plain(name)}s `);
  const own = terms.filter((one) => stands(one.name));
  const found = own.length > 0 ? own : terms.filter((one) => one.also.some(stands));
  return [...found].sort((a, b) => b.name.length - a.name.length);
}
