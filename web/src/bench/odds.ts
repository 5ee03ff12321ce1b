/** Odds in words: the model's, in tens; it never claims more than "90 % or more". */
export function oddsWords(percent: number): string {
  if (percent >= 90) return "90 % or more";
  return percent <= 10 ? "10 % or less" : `about ${percent} %`;
}

/** An adjuster's turn in words, + is in. */
export function turned(notches: number): string {
  if (notches === 0) return "stays";
  const many = Math.abs(notches);
  return `${many} ${many === 1 ? "notch" : "notches"} ${notches > 0 ? "in" : "out"}`;
}
