import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import { useQuery } from "@tanstack/react-query";
import { useSearchParams } from "react-router";
import type { Schemas } from "../../api/client";
import { tackWall } from "../../api/queries";
import { useMe } from "../../parts/me";
import { OneOf } from "../../parts/one-of";
import { Empty, PageLoading, PageTrouble } from "../../parts/states";
import { Bench } from "./bench";
import { HorseTack } from "./horse";
import { Wall } from "./wall";

const views = [
  ["wall", "Wall"],
  ["bench", "Bench"],
  ["horse", "Horse"],
] as const;
type View = (typeof views)[number][0];

/** What the bench begins with: a leverage bit that was measured, else anything that was. */
const mostToSee = (pieces: Schemas["PieceOut"][]) =>
  pieces.find((p) => p.measured?.measures.kind === "leverage") ?? pieces.find((p) => p.measured) ?? pieces[0];

/** Bits and bosals: the wall of the barn, what one does under a hand, and a horse on its road from one to the next. */
export function Tack() {
  const me = useMe();
  const [asked, setAsked] = useSearchParams();
  const wall = useQuery(tackWall);
  const view = views.find(([value]) => value === asked.get("view"))?.[0] ?? "wall";
  const at = (next: { view?: View; piece?: string; horse?: string }) =>
    setAsked((old) => {
      const params = new URLSearchParams(old);
      for (const [key, value] of Object.entries(next)) params.set(key, value);
      return params;
    });
  if (wall.error)
    return (
      <PageTrouble
        title="Couldn't load the tack"
        detail={wall.error.message}
        again={() => void wall.refetch()}
      />
    );
  if (!wall.data) return <PageLoading what="the tack" />;
  const pieces = wall.data.items;
  const piece = pieces.find((p) => p.id === asked.get("piece")) ?? mostToSee(pieces);
  const horse = pieces.find((p) => p.horse_id === asked.get("horse"))?.horse_id ?? piece?.horse_id;
  return (
    <>
      <Box sx={{ display: "flex", gap: 2, alignItems: "center", flexWrap: "wrap", mb: 2 }}>
        <Typography variant="h1">Tack</Typography>
        {/* The bench and what it works out are for whoever rides. */}
        <OneOf
          label="View"
          of={views.filter(([value]) => value !== "bench" || me.role !== "owner")}
          picked={view}
          onPick={(view) => at({ view })}
        />
      </Box>
      {pieces.length === 0 || !piece || !horse ? (
        <Empty>No bit or bosal is noted yet. Add what a horse wears under Gear on its page.</Empty>
      ) : view === "bench" && me.role !== "owner" ? (
        <Bench key={piece.id} pieces={pieces} piece={piece} onPick={(id) => at({ piece: id })} />
      ) : view === "horse" ? (
        <HorseTack pieces={pieces} horse={horse} onPick={(id) => at({ horse: id })} />
      ) : (
        <Wall
          pieces={pieces}
          onBench={(piece) => at({ view: "bench", piece })}
          onHorse={(horse) => at({ view: "horse", horse })}
        />
      )}
    </>
  );
}
