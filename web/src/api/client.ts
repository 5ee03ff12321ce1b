import createClient, { type Middleware } from "openapi-fetch";

import type { components, paths } from "./schema";

export type Schemas = components["schemas"];
export type Me = Schemas["MeOut"];
export type Job = Schemas["JobOut"];
export type Work = Schemas["WorkOut"];
export type Vehicle = Schemas["VehicleOut"];
export type Step = Schemas["StepOut"];
export type Station = Schemas["StationOut"];
export type Bench = Schemas["BenchOut"];
export type Trial = Schemas["TrialOut"];
export type Reading = Schemas["ReadingOut"];
export type Family = Schemas["FamilyOut"];
export type Sheet = Schemas["SheetOut"];
export type Assessment = Schemas["AssessmentOut"];
export type Advice = Schemas["AdviceOut"];
export type AdviceBody = NonNullable<Advice["advice"]>;
export type Proposal = Schemas["ProposalOut"];
export type Contact = Schemas["ContactOut"];
export type Preview = Schemas["PreviewOut"];
export type Chart = Schemas["ChartOut"];
export type Limit = Schemas["LimitOut"];
export type FloorJob = Schemas["FloorJobOut"];
export type Verdict = Assessment["verdict"];

/** A tooth's two flanks: drive pushes in forward travel. */
export type Flank = "drive" | "coast";

/** What the server said no with. */
export interface Refused {
  code: string;
  message: string;
  field: string;
  question: Question | null;
  current: unknown;
}

export interface Question {
  code: string;
  text: string;
  choices: { label: string; typed: string; sure: boolean }[];
}

/** The answer to a call: done, refused with a sentence, or the server was not reached. */
export type Answer<T> =
  { kind: "done"; value: T } | { kind: "refused"; status: number; refused: Refused } | { kind: "lost" };

function cookie(name: string): string {
  const found = document.cookie.split("; ").find((part) => part.startsWith(`${name}=`));
  return found ? decodeURIComponent(found.slice(name.length + 1)) : "";
}

const csrf: Middleware = {
  onRequest({ request }) {
    if (request.method !== "GET") request.headers.set("X-CSRFToken", cookie("csrftoken"));
    return request;
  },
};

export const client = createClient<paths>({ baseUrl: "", credentials: "same-origin" });
client.use(csrf);

/** Send one file, with the text fields that go beside it. */
export function upload(file: Blob, fields: object): FormData {
  const form = new FormData();
  for (const [name, value] of Object.entries(fields)) form.append(name, String(value));
  form.append("file", file, file instanceof File ? file.name : "photo.jpg");
  return form;
}

let signedOut: () => void = () => undefined;

/** Called whenever the server says that the login has ended. */
export function whenSignedOut(tell: () => void): void {
  signedOut = tell;
}

const SILENT: Refused = {
  code: "server_error",
  message: "The server did not answer. What you typed is kept. Try again.",
  field: "",
  question: null,
  current: null,
};

function refusedIn(body: unknown): Refused {
  if (typeof body !== "object" || body === null || !("error" in body)) return SILENT;
  const { error, question, current } = body as {
    error: Omit<Refused, "question" | "current">;
    question?: Question;
    current?: unknown;
  };
  return { ...error, question: question ?? null, current: current ?? null };
}

/** Turn a call into an answer; a connection that is lost is an answer too. */
export async function ask<T>(
  call: Promise<{ data?: T | undefined; error?: unknown; response: Response }>,
): Promise<Answer<T>> {
  try {
    const { data, error, response } = await call;
    if (response.ok) return { kind: "done", value: data as T };
    if (response.status === 502 || response.status === 503 || response.status === 504)
      return { kind: "lost" };
    const refused = refusedIn(error);
    if (refused.code === "signed_out") signedOut();
    return { kind: "refused", status: response.status, refused };
  } catch {
    return { kind: "lost" };
  }
}

/** The sentence for an answer that was not done. */
export function sentence(answer: { kind: "lost" } | { kind: "refused"; refused: Refused }): string {
  return answer.kind === "lost"
    ? "The connection is lost. What you typed is kept. Try again when it is back."
    : answer.refused.message;
}
