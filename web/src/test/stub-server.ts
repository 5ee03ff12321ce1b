import { vi } from "vitest";

export interface Sent {
  method: string;
  path: string;
  body: Record<string, unknown>;
  token: string | null;
}

async function bodyOf(request: Request): Promise<Record<string, unknown>> {
  if (request.headers.get("Content-Type")?.startsWith("multipart/form-data"))
    return Object.fromEntries((await request.formData()).entries());
  const text = await request.text();
  return text === "" ? {} : (JSON.parse(text) as Record<string, unknown>);
}

/**
 * Puts a pretended server in the place of fetch; it remembers what reached it. The API's client takes fetch and
 * Request as they are when it is loaded, so this comes before any import of it.
 */
export function stubServer(answer: (sent: Sent) => Response): Sent[] {
  const got: Sent[] = [];
  const Plain = globalThis.Request;
  if (typeof document === "undefined") vi.stubGlobal("document", { cookie: "csrftoken=a%20token; other=1" });
  else document.cookie = "csrftoken=a%20token"; // a component's test has a page of its own
  vi.stubGlobal(
    "Request",
    class extends Plain {
      constructor(input: string, init?: RequestInit) {
        super(new URL(input, "http://bench.test"), init);
      }
    },
  );
  vi.stubGlobal("fetch", async (request: Request) => {
    const sent: Sent = {
      method: request.method,
      path: new URL(request.url).pathname,
      body: await bodyOf(request),
      token: request.headers.get("X-CSRFToken"),
    };
    got.push(sent);
    return answer(sent);
  });
  return got;
}
