export type Tab = "off" | "map" | "decide" | "get" | "back" | "quote";

export const TABS: { key: Tab; word: string }[] = [
  { key: "off", word: "Take off" },
  { key: "map", word: "Map" },
  { key: "decide", word: "Decide" },
  { key: "get", word: "To get" },
  { key: "back", word: "Put back" },
  { key: "quote", word: "Quote" },
];
