import { ask, client, type Schemas } from "../api/client";

export type Kinds = Schemas["KindsOut"];
export type Place = Schemas["BookablePlaceOut"]["place"];
type Layout = Schemas["JobOut"]["layout"];

/** Where on a vehicle of this layout a kind of work can be done. */
export function placesOf(kinds: Kinds, kind: string, layout: Layout): Schemas["BookablePlaceOut"][] {
  const fits = kinds.kinds.find((one) => one.code === kind)?.places ?? [];
  return (kinds.places[layout] ?? []).filter((one) => fits.includes(one.place));
}

/** The assembly of a place that can be chosen, or the one to begin with. */
export function placeOr(places: Schemas["BookablePlaceOut"][], place: Place | ""): Place | "" {
  if (places.some((one) => one.place === place)) return place;
  return (places.find((one) => one.place === "rear_axle") ?? places[0])?.place ?? "";
}

/** All kinds of work, and those that a complaint points at. */
export async function kindsFor(complaint: string): Promise<Kinds | null> {
  const answer = await ask(client.GET("/api/v1/kinds", { params: { query: { complaint } } }));
  return answer.kind === "done" ? answer.value : null;
}
