// @vitest-environment happy-dom
import { beforeEach, expect, it } from "vitest";
import { mountedBefore, rememberMounted } from "./mounted";

beforeEach(() => localStorage.clear());

it("knows the rides that were got on, and forgets the oldest", () => {
  expect(mountedBefore("a")).toBe(false);
  rememberMounted("a");
  for (let n = 0; n < 39; n++) rememberMounted(`ride ${n}`);
  expect(mountedBefore("a")).toBe(true);
  rememberMounted("b");
  expect(mountedBefore("a")).toBe(false);
  expect(mountedBefore("b")).toBe(true);
});

it("asks again where what is kept cannot be read", () => {
  for (const broken of ["{", "null", '{"a":1}', "[1,2]"]) {
    localStorage.setItem("cavesson.mounted", broken);
    expect(mountedBefore("a")).toBe(false);
  }
  rememberMounted("a");
  expect(mountedBefore("a")).toBe(true);
});
