// @vitest-environment happy-dom
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { setDeviceOwner } from "../offline/owner";

const fetched = vi.fn<typeof fetch>();
const request = (path: string, method = "GET") => new Request(`http://barn.test${path}`, { method });
const begin = async () => {
  vi.resetModules();
  return (await import("./early")).takeEarly;
};

beforeEach(() => {
  localStorage.clear();
  vi.stubGlobal(
    "fetch",
    fetched.mockReset().mockImplementation(() => Promise.resolve(new Response("{}"))),
  );
});
afterEach(() => vi.unstubAllGlobals());

test("nothing is asked for on a device where nobody is signed in", async () => {
  const takeEarly = await begin();
  expect(fetched).not.toHaveBeenCalled();
  expect(takeEarly(request("/api/me"))).toBeUndefined();
});

test("who is there and Today are on their way, and each is taken once", async () => {
  setDeviceOwner("ada");
  const takeEarly = await begin();
  expect(fetched.mock.calls.map(([path]) => path)).toEqual(["/api/me", "/api/today"]);
  expect(await takeEarly(request("/api/today"))).toBeInstanceOf(Response);
  // The second time it is asked of the server: what was on its way may be old by then.
  expect(takeEarly(request("/api/today"))).toBeUndefined();
  expect(takeEarly(request("/api/me", "PUT"))).toBeUndefined();
  expect(takeEarly(request("/api/me?of=another"))).toBeUndefined();
  expect(await takeEarly(request("/api/me"))).toBeInstanceOf(Response);
});

test("whoever takes one that failed hears of it", async () => {
  setDeviceOwner("ada");
  fetched.mockImplementation(() => Promise.reject(new TypeError("no network")));
  const takeEarly = await begin();
  await expect(takeEarly(request("/api/me"))).rejects.toThrow("no network");
});
