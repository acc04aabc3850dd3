import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Slider from "@mui/material/Slider";
import Typography from "@mui/material/Typography";
import type { Schemas } from "../../api/client";
import { FOOT, about, onTape, speedIn } from "../../parts/lengths";
import { OneOf } from "../../parts/one-of";
import { ink, inkSoft, oxblood, rule, sageDark } from "../../theme/tokens";
import { spotName, spots, withBarrel, type SetUp } from "./draft";

const signed = (seconds: number) => `${seconds < 0 ? "−" : "+"}${Math.abs(seconds).toFixed(2)} s`;

/** How the footing holds, as a share of what the horse is known for. */
export const footings: [number, string][] = [
  [0.7, "Slick"],
  [1, "As usual"],
  [1.15, "Deep, holds well"],
];

/** What a foot costs: sliders for the pockets of one barrel, and what each more or less comes to. */
export function Costs(props: {
  setUp: SetUp;
  run: Schemas["RunOut"];
  stride: number;
  units: Schemas["Units"];
  barrel: number;
  footing: number;
  onBarrel: (n: number) => void;
  onFooting: (share: number) => void;
  onChange: (to: SetUp, first: boolean) => void;
}) {
  const { setUp, run, units } = props;
  const n = Math.min(props.barrel, setUp.barrels.length - 1);
  const barrel = setUp.barrels[n];
  const turn = run.turns[n];
  if (!barrel || !turn) return null;
  const cost = (of: string, spot?: string) =>
    run.costs.find((c) => c.of === of && (c.barrel ?? n) === n && (c.spot ?? undefined) === spot);
  const early = cost("early");
  return (
    <Box sx={{ display: "grid", gap: 1.5 }}>
      <OneOf
        label="Barrel"
        of={setUp.barrels.map((b, k) => [k, `Barrel ${k + 1}, ${b.turn}`] as const)}
        picked={n}
        onPick={props.onBarrel}
      />
      {spots.map((spot) => (
        <Row
          key={spot}
          name={spotName[spot]}
          shown={onTape(units, barrel.pocket[spot])}
          value={barrel.pocket[spot] / FOOT}
          most={12}
          onChange={(feet, first) =>
            props.onChange(withBarrel(setUp, n, { pocket: { ...barrel.pocket, [spot]: feet * FOOT } }), first)
          }
          cost={cost("pocket", spot)?.more}
          of="A foot more"
        />
      ))}
      <Row
        name="Sit early"
        shown={`${((barrel.early ?? 0) / props.stride).toFixed(1)} strides`}
        value={(barrel.early ?? 0) / props.stride}
        least={0}
        most={4}
        onChange={(strides, first) =>
          props.onChange(withBarrel(setUp, n, { early: strides * props.stride }), first)
        }
        cost={early?.more}
        of="A stride earlier"
      />
      <Box
        component="dl"
        sx={{ m: 0, display: "grid", gridTemplateColumns: "1fr auto", rowGap: 0.5, columnGap: 2 }}
      >
        <Fact name="Slowest at this barrel" value={speedIn(units, turn.slowest)} />
        <Fact name="In the turn" value={`${turn.seconds.toFixed(2)} s, ${turn.degrees.toFixed(0)}°`} />
        <Fact
          name="Starts to rate"
          value={`${about(units, turn.rate_before)} before, ${turn.rate_strides.toFixed(1)} strides`}
        />
        <Fact name="To this barrel" value={`${run.legs[n]?.strides.toFixed(1)} strides`} />
        <Fact name="Out of it" value={`${run.legs[n + 1]?.strides.toFixed(1)} strides`} />
        <Fact name="A foot a second faster in" value={signed(cost("speed-in")?.more ?? 0)} />
        <Fact name="A tenth more grip" value={signed(cost("grip")?.more ?? 0)} />
      </Box>
      <Typography sx={{ fontWeight: 650 }}>Footing</Typography>
      <OneOf label="Footing" of={footings} picked={props.footing} onPick={props.onFooting} />
      {run.seconds - run.quickest_seconds > 0.005 && (
        <Box sx={{ borderTop: `1px solid ${rule}`, pt: 1.5 }}>
          <Typography sx={{ mb: 1 }}>
            On paper {(run.seconds - run.quickest_seconds).toFixed(2)} s quicker with{" "}
            {run.quickest
              .map((p, k) => `${k + 1}: ${spots.map((s) => onTape(units, p[s])).join(" / ")}`)
              .join("; ")}
            . Only for a horse that holds its pocket.
          </Typography>
          <Button
            variant="outlined"
            onClick={() =>
              props.onChange(
                {
                  ...setUp,
                  barrels: setUp.barrels.map((b, k) => ({ ...b, pocket: run.quickest[k] ?? b.pocket })),
                },
                true,
              )
            }
          >
            Try these pockets
          </Button>
        </Box>
      )}
    </Box>
  );
}

function Row(props: {
  name: string;
  shown: string;
  value: number;
  least?: number;
  most: number;
  cost: number | undefined;
  of: string;
  onChange: (value: number, first: boolean) => void;
}) {
  return (
    <Box
      sx={{
        display: "grid",
        gridTemplateColumns: "72px minmax(0, 1fr) 84px 104px",
        alignItems: "center",
        gap: 1.5,
      }}
    >
      <Typography sx={{ fontWeight: 650 }}>{props.name}</Typography>
      <Slider
        size="small"
        aria-label={`${props.name}: ${props.shown}`}
        value={props.value}
        min={props.least ?? 1}
        max={props.most}
        step={0.5}
        onChange={(event, value) => props.onChange(value as number, !event.type.endsWith("move"))}
        sx={{ color: ink }}
      />
      <Typography sx={{ fontWeight: 650, whiteSpace: "nowrap" }}>{props.shown}</Typography>
      <Typography
        sx={{ fontSize: "0.86rem", lineHeight: 1.15, color: (props.cost ?? 0) > 0 ? oxblood : sageDark }}
        aria-live="polite"
      >
        {props.of}
        <br />
        <b>{props.cost === undefined ? "–" : signed(props.cost)}</b>
      </Typography>
    </Box>
  );
}

function Fact({ name, value }: { name: string; value: string }) {
  return (
    <>
      <Box component="dt" sx={{ color: inkSoft }}>
        {name}
      </Box>
      <Box component="dd" sx={{ m: 0, fontWeight: 650, textAlign: "right" }}>
        {value}
      </Box>
    </>
  );
}
