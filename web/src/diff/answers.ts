import type { paths } from "../api/schema";

type Computed = Extract<keyof paths, `/api/v1/compute/${string}`>;
type Named<Path> = Path extends `/api/v1/compute/${infer Name}` ? Name : never;
type Name = Named<Computed>;
type Post<N extends Name> = paths[`/api/v1/compute/${N}`]["post"];
type Body<T> = T extends { requestBody: { content: { "application/json": infer B } } } ? B : never;
type Reply<T> = T extends { responses: { 200: { content: { "application/json": infer B } } } } ? B : never;

/** What a computation was asked, as the server filled it in. */
export type Asked<N extends Name> = Body<Post<N>>;
/** What it answered. */
export type Answered<N extends Name> = Reply<Post<N>>;
