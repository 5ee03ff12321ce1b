import { SHADOW_ITEM_MARKER_PROPERTY_NAME } from "svelte-dnd-action";

/** What a drag shows, each thing once: on a slow phone what is dragged is at times told where it is and where it was. */
export function eachOnce<Item extends { id: string }>(shown: Item[]): Item[] {
  const once = new Map<string, Item>();
  for (const one of shown)
    if (!once.has(one.id) || SHADOW_ITEM_MARKER_PROPERTY_NAME in one) once.set(one.id, one);
  return [...once.values()];
}
