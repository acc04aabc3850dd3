/** Every colour and size of the interface, in one place. Left is denim and right is rust wherever sides are shown. */
export const ink = "#22201C";
export const inkSoft = "#5B564D";
export const bone = "#F4EFE6";
export const paper = "#FBF8F2";
export const rule = "#D5CCBC";
export const denim = "#2B4C7E";
export const rust = "#A64C26";
export const sage = "#5F7161";
export const sageDark = "#475648";
export const marigold = "#C98A12";
export const oxblood = "#8C2F2B";
export const white = "#FFFFFF";
/** Soft text on ink. */
export const boneSoft = "#CBC3B4";
/** Marigold that is read as text on paper. */
export const marigoldDark = "#7A4E00";
/** Leather: loads, and what fills the bars of months. */
export const leather = "#B98C4A";
export const leatherSoft = "#D9B98A";
/** Works that only keep what is owned, and what cannot be pressed. */
export const dust = "#A89B83";
export const dustDark = "#8A8377";
/** Left and right on ink. */
export const denimSoft = "#7FA3D6";
export const rustSoft = "#DD8A63";
/** The coach saying that it is good to quit. */
export const pine = "#35503A";

export const slab = '"Bitter Variable", "Rockwell", serif';
export const sans = '"Source Sans 3 Variable", "Segoe UI", sans-serif';

/** Soft to hard: teal, straw, brick. */
const ramp: [number, number, number][] = [
  [166, 61, 47],
  [227, 197, 103],
  [27, 127, 121],
];

/** The colour of a share from 0 (hard) to 1 (soft). */
export function softness(share: number): string {
  const at = Math.min(1, Math.max(0, share)) * 2;
  const i = Math.min(1, Math.floor(at));
  const from = ramp[i] ?? ramp[0];
  const to = ramp[i + 1] ?? ramp[2];
  if (!from || !to) return rule;
  return `rgb(${from.map((v, k) => Math.round(v + ((to[k] ?? v) - v) * (at - i))).join(",")})`;
}

/** Recorded tracks that are shown at once: the first dashed, the second dotted. */
export const trackInks = [oxblood, ink];
export const sideColour = { left: denim, right: rust, both: sage } as const;

/** The smallest target while riding, for gloves. */
export const gloveTarget = 56;

/** Faces of the Ride page: one for shade and dusk, one for full sun. */
export const faces = {
  dark: {
    ground: "#171512",
    panel: "#24211C",
    text: "#F7F2E8",
    muted: "#BDB4A4",
    line: "#4A443A",
    left: "#34619F",
    right: "#B4552D",
    both: "#5F7161",
  },
  sun: {
    ground: "#FFFFFF",
    panel: "#F4EFE6",
    text: "#0E0C0A",
    muted: "#403B34",
    line: "#0E0C0A",
    left: "#1D3A66",
    right: "#8E3A17",
    both: "#3E4D40",
  },
} as const;
export type Face = keyof typeof faces;
