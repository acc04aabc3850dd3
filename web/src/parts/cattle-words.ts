import type { Schemas } from "../api/client";
import { dust, leather, marigold, oxblood, pine, sage } from "../theme/tokens";

export const mannerName: Record<Schemas["Manner"], string> = {
  slow: "Slow",
  honest: "Honest",
  "bob-and-weave": "Bobs and weaves",
  running: "Runs",
  sour: "Sour",
};

export const healthName: Record<Schemas["CowHealth"], string> = {
  well: "Well",
  "runny-eyes": "Runny eyes",
  lame: "Lame",
  hot: "Hot",
  sick: "Sick",
};

export const freshName: Record<Schemas["Freshness"], string> = {
  fresh: "Fresh",
  used: "Used",
  worn: "Worn",
  spent: "Spent",
};

export const freshColour: Record<Schemas["Freshness"], string> = {
  fresh: pine,
  used: sage,
  worn: leather,
  spent: dust,
};

export const positionName: Record<Schemas["Position"], string> = {
  leg: "At the leg",
  pad: "At the pad",
  hip: "At the hip",
  off: "A length off",
};

export const stoppedName: Record<Schemas["Stopped"], string> = {
  short: "Short",
  even: "Even",
  past: "Past",
};

export const speedName: Record<Schemas["CowSpeed"], string> = {
  slow: "Slow",
  lively: "Lively",
  fast: "Fast",
};

export const nextName: Record<Schemas["NextOnCattle"], string> = {
  "go-on": "Go on",
  "one-more": "One more",
  "quit-here": "Quit here",
  "another-cow": "Another cow",
  "leave-cattle": "Leave the cattle",
};

export const nextColour: Record<Schemas["NextOnCattle"], string> = {
  "go-on": sage,
  "one-more": marigold,
  "quit-here": pine,
  "another-cow": marigold,
  "leave-cattle": oxblood,
};
