import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import Slider from "@mui/material/Slider";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { tackBench } from "../../api/queries";
import { INCH, onRule } from "../../parts/inches";
import { useMe } from "../../parts/me";
import { OneOf } from "../../parts/one-of";
import { Panel } from "../../parts/panel";
import { Empty, FormTrouble, PageLoading } from "../../parts/states";
import { inkSoft, oxblood, paper, rule } from "../../theme/tokens";
import { BitDrawing } from "./bit-drawing";
import { HeldFacts, StrapFacts } from "./held-facts";
import { PieceDrawing } from "./piece-drawing";
import { radians } from "./tack-words";

type Piece = Schemas["PieceOut"];
const weights = [
  ["egg", "Egg"],
  ["lemon", "Lemon"],
  ["orange", "Orange"],
  ["fingers", "Fingers"],
  ["hand", "Hand"],
  ["tug", "Tug"],
] as const;
/** A hole of a strap goes double: an eighth of an inch of run is a quarter of slack. */
const HOLE = INCH / 4;

/** One piece under a hand, and another beside it. */
export function Bench(props: { pieces: Piece[]; piece: Piece; onPick: (piece: string) => void }) {
  const { pieces, piece } = props;
  const measured = pieces.filter((p) => p.measured);
  const [share, setShare] = useState(0.8);
  const [rise, setRise] = useState(10);
  const [noseOut, setNoseOut] = useState(30);
  const [beside, setBeside] = useState("");
  const other = measured.find((p) => p.id === beside);
  const list = (of: Piece[]) =>
    of.map((p) => (
      <MenuItem key={p.id} value={p.id}>
        {p.name}, {p.horse}
      </MenuItem>
    ));
  if (measured.length === 0)
    return <Empty>Measure a piece on the wall first: the bench works from its measures.</Empty>;
  const rein = { rise: radians(rise), noseOut: radians(noseOut) };
  return (
    <Box sx={{ display: "grid", gap: 2 }}>
      <Box sx={{ display: "flex", gap: 1.5, flexWrap: "wrap", alignItems: "center" }}>
        <TextField
          select
          label="Piece"
          value={piece.measured ? piece.id : ""}
          onChange={(e) => props.onPick(e.target.value)}
          sx={{ width: { xs: "100%", sm: 280 } }}
        >
          {list(measured)}
        </TextField>
        <TextField
          select
          label="Beside it"
          value={beside}
          onChange={(e) => setBeside(e.target.value)}
          sx={{ width: { xs: "100%", sm: 280 } }}
        >
          <MenuItem value="">Nothing</MenuItem>
          {list(measured.filter((p) => p.id !== piece.id))}
        </TextField>
        <Turn label="Nose out" value={noseOut} range={[-10, 70]} onChange={setNoseOut} />
        <Turn label="Hand over level" value={rise} range={[-30, 40]} onChange={setRise} />
      </Box>
      <Box
        sx={{
          display: "grid",
          gap: 2,
          alignItems: "start",
          gridTemplateColumns: { xs: "minmax(0, 1fr)", md: other ? "1fr 1fr" : "minmax(0, 1fr)" },
        }}
      >
        {piece.measured ? (
          <OnBench
            key={piece.id}
            piece={piece}
            measures={piece.measured.measures}
            share={share}
            onShare={setShare}
            wide={!other}
            {...rein}
          />
        ) : (
          <Empty>{piece.name} is not measured yet. Pick another, or measure it on the wall.</Empty>
        )}
        {other?.measured && (
          <OnBench
            key={other.id}
            piece={other}
            measures={other.measured.measures}
            share={share}
            onShare={setShare}
            wide={false}
            {...rein}
          />
        )}
      </Box>
    </Box>
  );
}

/** One piece: its drawing, and what the hand's weight comes to. */
function OnBench(props: {
  piece: Piece;
  measures: Schemas["Measures"];
  share: number;
  rise: number;
  noseOut: number;
  wide: boolean;
  onShare: (share: number) => void;
}) {
  const { piece, share, onShare } = props;
  const { units } = useMe().barn;
  const [more, setMore] = useState(0);
  const measures =
    props.measures.kind === "leverage"
      ? { ...props.measures, slack: Math.max(0, props.measures.slack + more * HOLE) }
      : props.measures;
  const bench = useQuery({
    ...tackBench({ measures, rise: props.rise, nose_out: props.noseOut }),
    placeholderData: keepPreviousData,
  });
  if (bench.error) return <FormTrouble error={bench.error} />;
  const held = bench.data?.held[Math.round(share * (bench.data.held.length - 1))];
  if (!bench.data || !held) return <PageLoading what="the bench" />;
  const { hung } = bench.data;
  const pick = (word: string) => {
    const of = bench.data.held.flatMap((h, n) => (h.word === word ? [n] : []));
    const middle = of[Math.floor(of.length / 2)];
    if (middle !== undefined) onShare(middle / (bench.data.held.length - 1));
  };
  return (
    <Box
      sx={{
        display: "grid",
        gap: 1.5,
        alignItems: "start",
        gridTemplateColumns: {
          xs: "minmax(0, 1fr)",
          md: props.wide ? "minmax(0, 1.15fr) minmax(0, 1fr)" : "minmax(0, 1fr)",
        },
      }}
    >
      {measures.kind === "leverage" && hung ? (
        <BitDrawing
          measures={measures}
          hung={hung}
          held={held}
          share={share}
          rise={props.rise}
          noseOut={props.noseOut}
          name={piece.name}
          onShare={onShare}
        />
      ) : (
        <Box sx={{ height: 360, background: paper, border: `1px solid ${rule}`, p: 2 }}>
          <PieceDrawing measures={measures} />
        </Box>
      )}
      <Panel name={piece.name}>
        <Box sx={{ display: "grid", gap: 1.5 }}>
          <Typography variant="h2">
            {piece.name}, {piece.horse}
          </Typography>
          <OneOf
            label="Weight on each rein"
            of={weights}
            picked={weights.find(([w]) => w === held.word)?.[0] ?? "egg"}
            onPick={pick}
          />
          <HeldFacts held={held} hung={hung} />
          {hung && measures.kind === "leverage" && (
            <>
              <StrapFacts hung={hung} />
              <Box sx={{ display: "flex", gap: 1, flexWrap: "wrap", alignItems: "center" }}>
                <Button variant="outlined" disabled={measures.slack === 0} onClick={() => setMore(more - 1)}>
                  A hole tighter
                </Button>
                <Button variant="outlined" onClick={() => setMore(more + 1)}>
                  A hole looser
                </Button>
                <Box component="span" sx={{ color: inkSoft }}>
                  {onRule(units, measures.slack)} over snug{more !== 0 && ", tried here only"}
                </Box>
              </Box>
            </>
          )}
          <Box component="ul" sx={{ m: 0, pl: 2.5, color: oxblood }}>
            {bench.data.cautions.map((c) => (
              <li key={c}>{c}.</li>
            ))}
          </Box>
          {bench.data.assumed.length > 0 && (
            <Box component="details" sx={{ color: inkSoft }}>
              <summary>What is geometry here, and what is a rule of thumb</summary>
              {bench.data.assumed.map((a) => (
                <Typography key={a} sx={{ fontSize: "0.95rem", mt: 0.75 }}>
                  {a}
                </Typography>
              ))}
            </Box>
          )}
        </Box>
      </Panel>
    </Box>
  );
}

/** An angle in degrees, by a slider. */
function Turn(props: {
  label: string;
  value: number;
  range: [number, number];
  onChange: (degrees: number) => void;
}) {
  return (
    <Box sx={{ width: 170 }}>
      <Typography sx={{ fontSize: "0.92rem" }}>
        {props.label}: {props.value}°
      </Typography>
      <Slider
        aria-label={props.label}
        value={props.value}
        min={props.range[0]}
        max={props.range[1]}
        step={1}
        onChange={(_, value) => props.onChange(value)}
        sx={{ py: 1 }}
      />
    </Box>
  );
}
