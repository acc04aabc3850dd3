import { deviceOwner } from "../offline/owner";

// What every page asks first, on its way before the rest of the script is read: this file needs nothing of it, and comes first.
const started = new Map<string, Promise<Response>>();

if (deviceOwner() !== null)
  for (const path of ["/api/me", "/api/today"]) {
    const answer = fetch(path);
    // Whoever takes it hears what went wrong; where nobody does, nothing did.
    answer.catch(() => undefined);
    started.set(path, answer);
  }

/** The response to a request that is on its way already, once; undefined for any other. */
export function takeEarly(request: Request): Promise<Response> | undefined {
  if (request.method !== "GET") return undefined;
  const { pathname, search } = new URL(request.url);
  const answer = started.get(pathname + search);
  started.delete(pathname + search);
  return answer;
}
