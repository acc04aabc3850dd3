import type { ReactNode } from "react";

const icon = (body: ReactNode) =>
  function Icon({ size = 26 }: { size?: number }) {
    return (
      <svg
        width={size}
        height={size}
        viewBox="0 0 26 26"
        fill="none"
        stroke="currentColor"
        strokeWidth="1.9"
        strokeLinecap="round"
        strokeLinejoin="round"
        aria-hidden="true"
      >
        {body}
      </svg>
    );
  };

/** The sun over the arena rail. */
export const TodayIcon = icon(
  <>
    <path d="M8 15a5 5 0 0 1 10 0M13 4v3M4.5 8.5l2 2M21.5 8.5l-2 2M2.5 15h21M5 15v7M13 15v7M21 15v7M2.5 19h21" />
  </>,
);
/** Two ears and a neck, from the saddle. */
export const HorseIcon = icon(
  <>
    <path d="M9.5 9 8 3.5 12 7M16.5 9 18 3.5 14 7M9 9.5C7.5 13 6.5 18 6 23M17 9.5c1.5 3.5 2.5 8.5 3 13.5M13 8v15" />
  </>,
);
/** Seven rails of a fence, one a day. */
export const WeekIcon = icon(
  <>
    <path d="M3 4v18M23 4v18M3 7h20M3 13h20M3 19h20M8 7v6M15 13v6M18.500 7v6" />
  </>,
);
/** A barn door. */
export const BarnIcon = icon(
  <>
    <path d="M3 11 13 3.5 23 11v11.5H3zM8.5 22.5V13h9v9.5M8.5 13l9 9.5M17.5 13l-9 9.5" />
  </>,
);
/** Three barrels and the way round them. */
export const PatternIcon = icon(
  <>
    <circle cx="19.500" cy="16" r="2" />
    <circle cx="6.500" cy="16" r="2" />
    <circle cx="13" cy="6.500" r="2" />
    <path d="M13 24C15 20 17 19.500 19.500 20.500c4.500 0 4.500-9 0-8.500C14 12.500 11 20 6.500 20.300 2 20.300 2 12 6.500 11.500" />
  </>,
);
/** A bit from the side: its ring, its shank, its strap. */
export const TackIcon = icon(
  <>
    <circle cx="10" cy="4.500" r="2" />
    <circle cx="14.500" cy="21.500" r="2" />
    <path d="M10 6.500v4.500c0 4 2 6 4 8.500M12 4.500c5 .5 8 2.500 8.500 6.500M10 11.500h.01M16.500 21.500h6.500" />
    <circle cx="10" cy="11.500" r="1.500" />
  </>,
);
/** An open book. */
export const BookIcon = icon(
  <>
    <path d="M13 7c-2.5-2-5.500-2.500-9-2.500v15c3.500 0 6.500.5 9 2.500 2.500-2 5.500-2.500 9-2.500v-15c-3.500 0-6.500.5-9 2.500zM13 7v15" />
  </>,
);
/** A cow's head: two ears and two horns. */
export const CattleIcon = icon(
  <>
    <path d="M8 9.500C5 9 4 6.500 4 4c1.500 2 3 2.500 5 2.500h8c2 0 3.500-.5 5-2.500 0 2.500-1 5-4 5.500M8 9.500 10 18c.5 3 5.500 3 6 0l2-8.500M10.500 17.500h5M4.500 11.500 8 11M21.500 11.500 18 11" />
  </>,
);
