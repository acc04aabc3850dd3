import type { Schemas } from "../api/client";

export type Side = Schemas["Side"];
export type Gait = Schemas["Gait"];
export type Weight = Schemas["Weight"];

export const sideName: Record<Side, string> = { left: "Left", right: "Right", both: "Both" };
export const sideLetter: Record<Side, string> = { left: "L", right: "R", both: "B" };
export const placeName: Record<Schemas["Place"], string> = {
  "round-pen": "Round pen",
  arena: "Arena",
  outside: "Outside",
  trail: "Trail",
};
/** Why a planned ride was not ridden. */
export const missedName: Record<Schemas["MissedReason"], string> = {
  time: "No time",
  horse: "Horse not right",
  rider: "Rider is off",
  weather: "Weather",
  place: "Pen not fit",
  other: "Something else",
};
export const postureName: Record<Schemas["Posture"], string> = {
  patient: "Patient",
  steady: "Steady",
  "go-ahead": "Go-ahead",
};

/** What lasts about a horse. */
export const traitName: Record<Schemas["Trait"], string> = {
  "quick-learner": "Quick learner",
  "slow-learner": "Slow learner",
  "behind-the-bit": "Hides behind the bit",
  "pops-up-behind": "Pops up behind",
  squirms: "Squirms",
  "looks-about": "Looks about",
  "needs-pushing": "Needs pushing",
  "runs-free": "Runs free",
  "one-sided": "One-sided",
  "leg-sensitive": "Sensitive to the leg",
  "idle-mouth": "Idle mouth",
  "busy-mouth": "Busy mouth",
  "in-season": "Changes in season",
};

export const percent = (share: number) => `${Math.round(share * 100)}%`;
/** A whole number as it is read: below zero with a minus, which is longer than a hyphen. */
export const whole = (n: number) => `${n < 0 ? "−" : ""}${Math.abs(n)}`;
export const clock = (time?: string | null) => (time ? time.slice(0, 5) : "–");

const dayName = new Intl.DateTimeFormat("en-US", {
  weekday: "short",
  month: "short",
  day: "numeric",
  timeZone: "UTC",
});
const longDay = new Intl.DateTimeFormat("en-US", {
  weekday: "long",
  month: "long",
  day: "numeric",
  timeZone: "UTC",
});
const headDay = new Intl.DateTimeFormat("en-US", {
  weekday: "short",
  month: "long",
  day: "numeric",
  timeZone: "UTC",
});
/** `2026-03-02` as `Mon, March 2`: the longest of the year stands on one line beside what is pressed. */
export const dayHeading = (date: string) => headDay.format(new Date(`${date}T00:00:00Z`));
/** `2026-03-02` as `Mon, Mar 2`. */
export const day = (date: string) => dayName.format(new Date(`${date}T00:00:00Z`));
const shortDay = new Intl.DateTimeFormat("en-US", { month: "short", day: "numeric", timeZone: "UTC" });
/** `2026-03-02` as `Mar 2`. */
export const dayOfMonth = (date: string) => shortDay.format(new Date(`${date}T00:00:00Z`));
const momentName = new Intl.DateTimeFormat("en-US", { dateStyle: "medium", timeStyle: "short" });
/** A moment by this device's clock. */
export const moment = (at: string) => momentName.format(new Date(at));
export const dayInFull = (date: string) => longDay.format(new Date(`${date}T00:00:00Z`));

/** With a capital letter. */
export const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);
/** `1 ride`, `3 rides`. */
export const many = (n: number, thing: string, more = `${thing}s`) => `${n} ${n === 1 ? thing : more}`;

/** The gaits that a pattern is ridden at. */
export const passGaits: [Gait, string][] = [
  ["walk", "Walk"],
  ["jog", "Jog"],
  ["lope", "Lope"],
  ["run", "Run"],
];

export const roleName: Record<Schemas["Role"], string> = {
  trainer: "Trainer",
  assistant: "Assistant",
  owner: "Owner",
};
