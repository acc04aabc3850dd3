import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { useMe } from "../../parts/me";
import { day, many } from "../../parts/words";
import { ink, inkSoft, leather, marigold, oxblood, paper, pine, rule } from "../../theme/tokens";
import { MeasuresForm } from "./measures-form";
import { PieceDrawing } from "./piece-drawing";
import { holdColour, holdWord, mouthpieceName } from "./tack-words";

type Piece = Schemas["PieceOut"];

/** Horses with the most to look at first: leverage, then those with more than one piece, then by name. */
export function byHorse(pieces: Piece[]): [string, Piece[]][] {
  const horses = new Map<string, Piece[]>();
  for (const piece of pieces) horses.set(piece.horse_id, [...(horses.get(piece.horse_id) ?? []), piece]);
  const rank = (own: Piece[]) =>
    (own.some((p) => p.mouthpiece === "leverage") ? 2 : 0) + (own.length > 1 ? 1 : 0);
  return [...horses.entries()].sort(
    ([, a], [, b]) => rank(b) - rank(a) || (a[0]?.horse ?? "").localeCompare(b[0]?.horse ?? ""),
  );
}

/** Every bit and bosal in use, hung up by horse and drawn to one scale. */
export function Wall(props: {
  pieces: Piece[];
  onBench: (piece: string) => void;
  onHorse: (horse: string) => void;
}) {
  const me = useMe();
  const [measuring, setMeasuring] = useState<Piece | null>(null);
  const may = me.role !== "owner";
  return (
    <Box sx={{ display: "flex", flexWrap: "wrap", gap: 2, alignItems: "stretch" }}>
      {byHorse(props.pieces).map(([id, own]) => (
        <Box
          component="section"
          key={id}
          aria-label={own[0]?.horse}
          sx={{ background: paper, border: `1px solid ${rule}`, maxWidth: "100%" }}
        >
          {/* The board that the pieces hang from. */}
          <Box
            sx={{
              background: leather,
              color: ink,
              px: 1.5,
              py: 0.5,
              display: "flex",
              alignItems: "center",
              gap: 1,
              minHeight: 52,
            }}
          >
            <Typography component="h2" sx={{ fontWeight: 750, fontSize: "1.1rem", flex: 1 }}>
              <Link to={`/horses/${id}`} style={{ color: ink }}>
                {own[0]?.horse}
              </Link>
            </Typography>
            {may && (
              <Button sx={{ color: ink }} onClick={() => props.onHorse(id)}>
                Its road
              </Button>
            )}
          </Box>
          <Box sx={{ display: "flex", flexWrap: "wrap" }}>
            {own.map((piece) => (
              <OnWall
                key={piece.id}
                piece={piece}
                may={may}
                onBench={() => props.onBench(piece.id)}
                onMeasure={() => setMeasuring(piece)}
              />
            ))}
          </Box>
        </Box>
      ))}
      <Typography sx={{ color: inkSoft, fontSize: "0.95rem", width: "100%" }}>
        What a horse of its age is shown in is from rule books, from memory: local rules and the class decide.
      </Typography>
      {measuring && <MeasuresForm piece={measuring} onClose={() => setMeasuring(null)} />}
    </Box>
  );
}

function OnWall(props: { piece: Piece; may: boolean; onBench: () => void; onMeasure: () => void }) {
  const { piece } = props;
  const old = piece.teeth_due;
  return (
    <Box sx={{ width: 208, px: 1.5, pb: 1.25, display: "flex", flexDirection: "column" }}>
      <Peg worn={piece.today} />
      <Box sx={{ height: 150, mt: -0.5 }}>
        {piece.measured ? (
          <PieceDrawing measures={piece.measured.measures} />
        ) : (
          <Box
            sx={{
              height: 110,
              mt: 2.5,
              border: `1.5px dashed ${rule}`,
              color: inkSoft,
              display: "grid",
              placeItems: "center",
              fontSize: "0.95rem",
            }}
          >
            not measured yet
          </Box>
        )}
      </Box>
      <Typography sx={{ fontWeight: 700, lineHeight: 1.25 }}>{piece.name}</Typography>
      <Typography sx={{ color: inkSoft, fontSize: "0.95rem" }}>
        {mouthpieceName[piece.mouthpiece]}
        {piece.takes_hold && (
          <>
            {", "}
            <Box component="span" sx={{ color: holdColour(piece.takes_hold), fontWeight: 650 }}>
              {holdWord[piece.takes_hold]}
            </Box>
          </>
        )}
      </Typography>
      <Typography sx={{ fontSize: "0.95rem" }}>
        {many(piece.days, "day")} ridden{" "}
        {piece.today ? (
          <Box component="span" sx={{ color: pine, fontWeight: 650 }}>
            and today
          </Box>
        ) : (
          piece.last_worn && `until ${day(piece.last_worn)}`
        )}
      </Typography>
      <Typography sx={{ fontSize: "0.95rem", color: inkSoft }}>Fitted {day(piece.since)}</Typography>
      {piece.shown && (
        <Typography
          sx={{ fontSize: "0.95rem", color: inkSoft, "&::first-letter": { textTransform: "uppercase" } }}
        >
          {piece.shown}
        </Typography>
      )}
      {piece.mouthpiece !== "bitless" && (
        <Typography sx={{ fontSize: "0.95rem", color: old ? oxblood : inkSoft }}>
          {piece.teeth_seen ? `Teeth seen ${day(piece.teeth_seen)}` : "Teeth not seen"}
          {old && piece.teeth_seen && ": over a year ago"}
        </Typography>
      )}
      {props.may && (
        <Box sx={{ display: "flex", gap: 1, mt: "auto", pt: 0.75 }}>
          {piece.measured && (
            <Button variant="outlined" aria-label={`${piece.name} on the bench`} onClick={props.onBench}>
              Bench
            </Button>
          )}
          <Button
            variant={piece.measured ? "text" : "outlined"}
            aria-label={`Measure ${piece.name}`}
            onClick={props.onMeasure}
          >
            Measure
          </Button>
        </Box>
      )}
    </Box>
  );
}

/** The peg that a piece hangs on: brass where it is worn today. */
function Peg({ worn }: { worn: boolean }) {
  return (
    <Box
      aria-hidden="true"
      sx={{
        width: 16,
        height: 16,
        borderRadius: "50%",
        mx: "auto",
        mt: 1,
        border: `2px solid ${ink}`,
        background: worn ? marigold : paper,
      }}
    />
  );
}
