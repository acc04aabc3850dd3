// @vitest-environment happy-dom
import { afterEach, expect, test, vi } from "vitest";
import { api, ask, setToken, whenToConfirm } from "./client";

const json = (status: number, body: unknown) =>
  new Response(JSON.stringify(body), { status, headers: { "content-type": "application/problem+json" } });
const confirmNeeded = () =>
  json(403, { type: "/problems/confirm-needed", title: "", status: 403, detail: "Give your password" });

const fetched = vi.fn<(request: Request) => Promise<Response>>();
vi.stubGlobal("fetch", fetched);
afterEach(() => void fetched.mockReset());

const link = () => ask(api.POST("/api/people/{id}/link", { params: { path: { id: "p1" } }, fetch: fetched }));

test("what was refused for want of the password is sent again once it was given", async () => {
  setToken("t1");
  fetched.mockResolvedValueOnce(confirmNeeded()).mockResolvedValueOnce(json(201, { path: "/join#x" }));
  const asked = vi.fn(() => Promise.resolve(true));
  whenToConfirm(asked);
  expect(await link()).toEqual({ path: "/join#x" });
  expect(asked).toHaveBeenCalledOnce();
  expect(fetched.mock.calls.map(([request]) => request.headers.get("x-csrf-token"))).toEqual(["t1", "t1"]);
});

test("where the password is not given, the refusal is told and nothing is sent again", async () => {
  fetched.mockResolvedValueOnce(confirmNeeded());
  whenToConfirm(() => Promise.resolve(false));
  await expect(link()).rejects.toThrow("Give your password");
  expect(fetched).toHaveBeenCalledOnce();
});

test("any other refusal asks for nothing", async () => {
  fetched.mockResolvedValueOnce(json(403, { type: "/problems/not-allowed", detail: "Only a trainer" }));
  const asked = vi.fn(() => Promise.resolve(true));
  whenToConfirm(asked);
  await expect(link()).rejects.toThrow("Only a trainer");
  expect(asked).not.toHaveBeenCalled();
});
