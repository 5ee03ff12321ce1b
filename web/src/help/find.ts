/** What `/` looks for: vehicles and jobs by name or number, terms in any spelling. */

import { ask, client, type Schemas } from "../api/client";

export interface Found {
  group: "Vehicles" | "Jobs" | "Terms";
  key: string;
  name: string;
  more: string;
  href: string;
  term: Schemas["TermOut"] | null;
}

const MOST_EACH = 6;

/** Terms that a word could mean, all for none; null when the connection is lost. */
export async function findTerms(search: string): Promise<Schemas["TermOut"][] | null> {
  const answer = await ask(client.GET("/api/v1/terms", { params: { query: { search } } }));
  return answer.kind === "done" ? answer.value : answer.kind === "lost" ? null : [];
}

/** The first few of each; null when the connection is lost. */
export async function find(search: string): Promise<Found[] | null> {
  if (search.trim() === "") return [];
  const query = { search };
  const [vehicles, jobs, terms] = await Promise.all([
    ask(client.GET("/api/v1/vehicles", { params: { query } })),
    ask(client.GET("/api/v1/floor", { params: { query } })),
    findTerms(search),
  ]);
  if (vehicles.kind === "lost" || jobs.kind === "lost" || terms === null) return null;
  return [
    ...(vehicles.kind === "done" ? vehicles.value.vehicles : []).slice(0, MOST_EACH).map((one) => ({
      group: "Vehicles" as const,
      key: one.id,
      name: one.name,
      more: one.owner,
      href: `/vehicles/${one.id}`,
      term: null,
    })),
    ...(jobs.kind === "done" ? jobs.value.jobs : []).slice(0, MOST_EACH).map((one) => ({
      group: "Jobs" as const,
      key: one.id,
      name: `Job ${one.number}, ${one.vehicle}`,
      more: one.complaint,
      href: `/jobs/${one.id}`,
      term: null,
    })),
    ...terms.slice(0, MOST_EACH).map((one) => ({
      group: "Terms" as const,
      key: one.code,
      name: one.name,
      more: one.meaning,
      href: "",
      term: one,
    })),
  ];
}
