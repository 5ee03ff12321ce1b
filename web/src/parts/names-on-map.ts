/** A part that wants its name beside it on the map. */
export interface ToName {
  key: string;
  text: string;
  x: number;
  y: number;
}

export interface NameOnMap extends ToName {
  anchor: "start" | "middle" | "end";
}

interface Box {
  left: number;
  right: number;
  top: number;
  bottom: number;
}

export const NAME_SIZE = 16;
const PER_LETTER = 0.44 * NAME_SIZE;
/** Half of the space that a drawn part takes, with its marks. */
const HALF = { wide: 15, high: 17 };
const PLACES: { dx: number; dy: number; anchor: NameOnMap["anchor"] }[] = [
  { dx: 0, dy: HALF.high + NAME_SIZE, anchor: "middle" },
  { dx: 0, dy: -HALF.high - 5, anchor: "middle" },
  { dx: HALF.wide + 4, dy: 5, anchor: "start" },
  { dx: -HALF.wide - 4, dy: 5, anchor: "end" },
  { dx: HALF.wide, dy: HALF.high + NAME_SIZE, anchor: "start" },
  { dx: -HALF.wide, dy: HALF.high + NAME_SIZE, anchor: "end" },
  { dx: HALF.wide, dy: -HALF.high - 5, anchor: "start" },
  { dx: -HALF.wide, dy: -HALF.high - 5, anchor: "end" },
];

/** Names beside their parts, each where it covers no other part and no other name; one that finds no such place is left out. */
export function namesOnMap(
  named: readonly ToName[],
  drawn: readonly { x: number; y: number }[],
  map: { width: number; height: number },
): NameOnMap[] {
  const taken = drawn.map(({ x, y }) => around(x, y));
  const found: NameOnMap[] = [];
  for (const part of named) {
    for (const { dx, dy, anchor } of PLACES) {
      const name = { ...part, x: part.x + dx, y: part.y + dy, anchor };
      const box = covered(name);
      if (box.left < 0 || box.right > map.width || box.top < 0 || box.bottom > map.height) continue;
      if (taken.some((other) => meet(box, other))) continue;
      taken.push(box);
      found.push(name);
      break;
    }
  }
  return found;
}

function around(x: number, y: number): Box {
  return { left: x - HALF.wide, right: x + HALF.wide, top: y - HALF.high, bottom: y + HALF.high };
}

function covered(name: NameOnMap): Box {
  const wide = PER_LETTER * name.text.length;
  const left = name.x - { start: 0, middle: wide / 2, end: wide }[name.anchor];
  return { left, right: left + wide, top: name.y - 0.8 * NAME_SIZE, bottom: name.y + 0.2 * NAME_SIZE };
}

function meet(one: Box, other: Box): boolean {
  return one.left < other.right && other.left < one.right && one.top < other.bottom && other.top < one.bottom;
}
