// @vitest-environment happy-dom
import { beforeEach, expect, it } from "vitest";
import { forgetMounted, mountedLately, rememberMounted } from "./mounted";

const HOUR = 60 * 60 * 1000;
const noon = 1_700_000_000_000;

beforeEach(() => localStorage.clear());

it("knows which rides were got on, each for two hours", () => {
  expect(mountedLately("a", noon)).toBe(false);
  rememberMounted("a", noon);
  rememberMounted("b", noon + HOUR);
  expect(mountedLately("a", noon + 1.9 * HOUR)).toBe(true);
  expect(mountedLately("a", noon + 2 * HOUR)).toBe(false);
  expect(mountedLately("b", noon + 2 * HOUR)).toBe(true);
  // A clock that was set back a day knows nothing of it.
  expect(mountedLately("b", noon - 24 * HOUR)).toBe(false);
  rememberMounted("c", noon + 9 * HOUR);
  expect(Object.keys(JSON.parse(localStorage.getItem("cavesson.mounted") ?? "") as object)).toEqual(["c"]);
});

it("asks again where what is kept cannot be read", () => {
  for (const broken of ["{", "null", '{"a":"noon"}', "[1,2]", '"a"']) {
    localStorage.setItem("cavesson.mounted", broken);
    expect(mountedLately("a", noon)).toBe(false);
  }
  rememberMounted("a", noon);
  expect(mountedLately("a", noon)).toBe(true);
  forgetMounted();
  expect(mountedLately("a", noon)).toBe(false);
});
