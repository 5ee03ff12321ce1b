/** The keys of the application: where `g` and a letter go, and what each screen listens to. */

export interface Key {
  keys: string;
  does: string;
}

export const EVERYWHERE: Key[] = [
  { keys: "?", does: "Show the keys of this screen" },
  { keys: "/", does: "Search vehicles, jobs and terms" },
  { keys: "t", does: "Show the terms on this screen" },
  { keys: "g, then a letter", does: "Go to a place" },
  { keys: "Esc", does: "Close a dialog" },
];

interface Place {
  letter: string;
  name: string;
  /** from the page's own address, where a piece of work is open */
  to: (path: string) => string | null;
}

const below = (end: string) => (path: string) => {
  const work = /^\/jobs\/[^/]+\/work\/[^/]+/.exec(path)?.[0];
  const job = /^\/jobs\/(?!new$|import$)([^/]+)/.exec(path);
  const base = work ?? (job ? `${job[0]}/work/${job[1] ?? ""}` : null);
  return base === null ? null : `${base}${end}`;
};

export const PLACES: Place[] = [
  { letter: "f", name: "Floor", to: () => "/" },
  { letter: "n", name: "New job", to: () => "/jobs/new" },
  { letter: "v", name: "Vehicles", to: () => "/vehicles" },
  { letter: "s", name: "Stores", to: () => "/stores" },
  { letter: "w", name: "Kinds of work", to: () => "/kinds" },
  { letter: "y", name: "You", to: () => "/you" },
  { letter: "k", name: "All keys", to: () => "/keys" },
  { letter: "t", name: "Glossary", to: () => "/glossary" },
  { letter: "j", name: "Run sheet of this work", to: below("") },
  { letter: "b", name: "Set-up bench of this work", to: below("/bench") },
  { letter: "m", name: "Diff bench", to: (path) => below("/diff-bench")(path) ?? "/diff-bench" },
  { letter: "r", name: "Ratio desk of this work", to: below("/ratios") },
  { letter: "d", name: "Driveline desk of this work", to: below("/driveline") },
  { letter: "o", name: "Noise finder of this work", to: below("/noise") },
  { letter: "h", name: "Build sheet of this work", to: below("/sheet") },
];

export interface Screen {
  name: string;
  path: RegExp;
  keys: Key[];
}

export const SCREENS: Screen[] = [
  {
    name: "Diff bench",
    path: /\/diff-bench$/,
    keys: [
      { keys: "Enter", does: "Record the reading and go to the next one" },
      { keys: "↑ ↓", does: "In the strip: the reading before, the next one" },
    ],
  },
  {
    name: "Set-up bench",
    path: /\/bench$/,
    keys: [
      { keys: "0 to 9", does: "Start a reading, wherever the focus is" },
      { keys: "Enter", does: "Record the reading and go to the next tooth" },
      { keys: "Backspace", does: "In the empty strip: strike out the last reading" },
      { keys: "A, B", does: "Answer the question about a doubtful reading" },
      { keys: "X", does: "Discard the doubtful reading" },
      { keys: "U", does: "Undo the last answer" },
      {
        keys: "← → ↑ ↓",
        does: "Move the pattern, or the cross on the map; with Shift: stretch it, or in larger steps",
      },
      { keys: "[ ]", does: "Tilt the pattern" },
    ],
  },
  {
    name: "Driveline desk",
    path: /\/driveline$/,
    keys: [
      { keys: "Enter", does: "Record the figure and go to the next member" },
      { keys: "↑ ↓", does: "Previous or next figure" },
      { keys: "L, H", does: "Axle end lower or higher" },
      { keys: "P", does: "Read from plumb or from level" },
      { keys: "← → ↑ ↓", does: "On a joint: move it by 1 mm; with Shift by 10 mm" },
    ],
  },
  {
    name: "Ratio desk",
    path: /\/ratios$/,
    keys: [{ keys: "← →", does: "On a slider: less or more" }],
  },
  {
    name: "Run sheet",
    path: /\/work\/[^/]+$|^\/jobs\/[0-9a-f-]{30,}$/,
    keys: [
      { keys: "Enter", does: "Confirm the step in hand, or record its reading" },
      { keys: "↑ ↓", does: "Look at the step before or after; nothing is passed" },
      { keys: "Esc", does: "Back to the step in hand" },
    ],
  },
];

/** The screen at an address, where it has keys of its own. */
export const screenAt = (path: string): Screen | null => SCREENS.find((one) => one.path.test(path)) ?? null;

/** Where `g` and this letter lead from an address; null for nowhere. */
export function placeFor(letter: string, path: string): string | null {
  return PLACES.find((one) => one.letter === letter.toLowerCase())?.to(path) ?? null;
}
