import createClient, { type Middleware } from "openapi-fetch";
import { takeEarly } from "./early";
import type { components, paths } from "./schema";

export type Schemas = components["schemas"];
export type Problem = Schemas["Problem"];

/** A request that the server refused, with its problem document. */
export class Refused extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail);
  }
  /** What is wrong with a field, if anything. */
  field(name: string): string | undefined {
    return this.problem.errors?.find((e) => e.field === name)?.detail;
  }
}

/** The server could not be reached. */
export class Unreachable extends Error {}

let csrf = "";
let serverClock: { server: Date; here: Date } | null = null;
let onSignedOut: () => void = () => undefined;

/** The token of this session, told by `/api/me`. */
export function setToken(token: string) {
  csrf = token;
}

/** What to do when a request finds the session run out. */
export function whenSignedOut(act: () => void) {
  onSignedOut = act;
}

/** Asks for the password; whether it was given. */
let onConfirm: () => Promise<boolean> = () => Promise.resolve(false);

/** What to do when the server asks for the password before it changes an account. */
export function whenToConfirm(act: () => Promise<boolean>) {
  onConfirm = act;
}

// Answers without a session are no surprise here, and those of wrong passwords are told in their forms.
const QUIET = ["/api/sign-in", "/api/me", "/api/confirm", "/api/account/password"];

/** Requests as they were sent, to be sent again once the password was given. */
const sent = new WeakMap<Request, Request>();

async function asksToConfirm(response: Response): Promise<boolean> {
  if (response.status !== 403) return false;
  const problem = (await response
    .clone()
    .json()
    .catch(() => null)) as Partial<Problem> | null;
  return problem?.type === "/problems/confirm-needed";
}

const carryToken: Middleware = {
  onRequest({ request }) {
    if (request.method !== "GET") {
      request.headers.set("x-csrf-token", csrf);
      sent.set(request, request.clone());
    }
    return request;
  },
  async onResponse({ request, response, schemaPath }) {
    const date = response.headers.get("date");
    // A page that opens from what is kept on the device hears no clock but its own.
    if (date && response.headers.get("x-kept") === null)
      serverClock = { server: new Date(date), here: new Date() };
    // What is asked for while it is not known yet who is there tells nobody that they are signed out.
    if (response.status === 401 && csrf && !QUIET.includes(schemaPath)) onSignedOut();
    const again = sent.get(request);
    if (again && (await asksToConfirm(response)) && (await onConfirm())) return fetch(again);
    return undefined;
  },
};

export const api = createClient<paths>({
  baseUrl: "/",
  fetch: (request) => takeEarly(request) ?? fetch(request),
});
api.use(carryToken);

/** The server's clock and this device's at the same moment, as of the last response. */
export const clocks = () => serverClock;

/** The data of an answer, or the problem as an error. */
export async function ask<T>(sent: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  let answer;
  try {
    answer = await sent;
  } catch {
    throw new Unreachable("Couldn't reach the server. What you typed is still here.");
  }
  if (answer.response.ok) return answer.data as T;
  const problem = answer.error as Partial<Problem> | undefined;
  if (problem && typeof problem === "object" && typeof problem.detail === "string")
    throw new Refused(problem as Problem);
  throw new Unreachable("Something went wrong on the server. Try again in a moment.");
}
