import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import userEvent from "@testing-library/user-event";
import type { ReactNode } from "react";
import { MemoryRouter } from "react-router";
import type { Schemas } from "../api/client";
import { MeContext } from "../parts/me";

/** What stands around a page: a cache of its own, an address, and someone who is signed in on the second of March 2026. */
export function around(role: Schemas["Role"] = "trainer", at = "/") {
  const client = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  const me = { id: "p1", role, today: "2026-03-02", barn: { units: "imperial" } } as Schemas["Me"];
  const wrapper = ({ children }: { children: ReactNode }) => (
    <QueryClientProvider client={client}>
      <MemoryRouter initialEntries={[at]}>
        <MeContext value={me}>{children}</MeContext>
      </MemoryRouter>
    </QueryClientProvider>
  );
  return { client, wrapper, user: userEvent.setup({ delay: null }) };
}

/** A response of the server. */
export const answer = (data: unknown) => Promise.resolve({ data, response: { ok: true } });

/** A refusal: a problem document, with what is wrong at which field. */
export const refusal = (detail: string, more: Partial<Schemas["Problem"]> = {}) =>
  Promise.resolve({
    error: { type: "/problems/fields", title: "Couldn't save", status: 422, detail, ...more },
    response: { ok: false },
  });

/** A planned ride of Juniper. */
export const aRideOfToday = (more: Partial<Schemas["RideOut"]> = {}): Schemas["RideOut"] => ({
  id: "r1",
  horse_id: "h1",
  horse_name: "Juniper",
  rider_id: "p1",
  rider_name: "Dell Okafor",
  date: "2026-03-02",
  entered: "pen",
  from_week: true,
  note: "",
  place: "arena",
  reps: 0,
  signs: [],
  state: "planned",
  version: 1,
  ...more,
});
