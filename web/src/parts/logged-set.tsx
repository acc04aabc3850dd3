import Box from "@mui/material/Box";
import { useQuery } from "@tanstack/react-query";
import type { Schemas } from "../api/client";
import { curriculum } from "../api/queries";
import { marigold, oxblood, sage } from "../theme/tokens";
import { shortly } from "./counts";
import { sideName } from "./words";

export type Logged = { kind: "rep"; body: Schemas["RepIn"] } | { kind: "count"; body: Schemas["CountIn"] };

const looks = {
  gave: { word: "gave", fill: sage },
  tried: { word: "tried", fill: marigold },
  none: { word: "none", fill: oxblood },
};

/** What was logged in one set, whole: the rung, the side, and every ask with its weight and time. */
export function LoggedSet({ items }: { items: Logged[] }) {
  const book = useQuery(curriculum).data;
  const first = items[0];
  if (!first) return null;
  const { set } = first.body;
  const rung = book?.rungs.find((r) => r.id === set.rung)?.name ?? set.rung;
  const weight = (id: string) => book?.weights.find((w) => w.weight === id)?.phrase ?? id;
  return (
    <Box sx={{ minWidth: 0 }}>
      <b>
        {rung}, {set.gait}
        {set.side !== "both" && `, ${sideName[set.side].toLowerCase()}`}
      </b>
      <Box
        component="ul"
        sx={{ listStyle: "none", p: 0, m: 0, display: "flex", flexWrap: "wrap", columnGap: 2 }}
      >
        {items.map((item, n) => (
          <Box component="li" key={n} sx={{ display: "flex", alignItems: "center", gap: 0.75 }}>
            {item.kind === "rep" ? (
              <>
                <Box
                  aria-hidden="true"
                  sx={{
                    width: 12,
                    height: 12,
                    borderRadius: "50%",
                    background: looks[item.body.outcome].fill,
                  }}
                />
                {looks[item.body.outcome].word}, {weight(item.body.weight)}
                {item.body.seconds != null && `, ${item.body.seconds} s`}
                {(item.body.faults ?? []).length > 0 && `, ${(item.body.faults ?? []).join(", ")}`}
              </>
            ) : (
              <>
                {shortly(item.body.count)}
                {(item.body.faults ?? []).length > 0 && `, ${(item.body.faults ?? []).join(", ")}`}
              </>
            )}
          </Box>
        ))}
      </Box>
    </Box>
  );
}
