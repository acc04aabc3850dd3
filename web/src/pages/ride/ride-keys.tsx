import { KeyList } from "../../parts/key-list";

const keys: [string, string][] = [
  ["F and J, held", "ask left, ask right; let go at the give"],
  ["space, held", "both reins"],
  ["G", "gave"],
  ["T and Y", "tried: one part of it, the other part"],
  ["N", "none"],
  ["1 to 8", "the weight, lightest first"],
  ["S", "a set from memory"],
  ["U", "undo the last rep"],
  ["P", "the plan"],
  ["H", "hand over, which cow"],
  ["R and K", "the other rider, the next cow"],
  ["C", "close the ride"],
  ["Esc", "that was no ask"],
];

/** The keys of a ride, for a helper at the rail. */
export function RideKeys({ onClose }: { onClose: () => void }) {
  return <KeyList title="Keys while riding" keys={keys} onClose={onClose} />;
}
