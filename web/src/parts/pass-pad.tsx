import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import type { ReactNode } from "react";
import type { Schemas } from "../api/client";
import { onTape } from "./lengths";
import { Toggle } from "./toggle";

type Told = Schemas["BarrelTold"];
const spotNames = ["In", "Behind", "Out"];
const spotKeys = ["entry", "back", "exit"] as const;
const pockets: [Schemas["PocketTold"], string][] = [
  ["close", "Close"],
  ["as-planned", "Good"],
  ["wide", "Wide"],
];
const rates: [Schemas["RateTold"], string][] = [
  ["early", "Early"],
  ["as-planned", "Good"],
  ["late", "Late"],
];
export const passFaults: [Schemas["PassFault"], string][] = [
  ["fell-in", "Fell in"],
  ["stepped-off", "Stepped off"],
  ["ran-past", "Ran past"],
  ["broke-gait", "Broke gait"],
  ["wrong-lead", "Wrong lead"],
];

const PAD = { minHeight: 48, minWidth: 0, px: 0.5, flex: "1 1 0" };

/** What is told of one barrel: three taps for its pocket, one for the rate, and what went wrong. */
export function BarrelPad(props: {
  n: number;
  turn: Schemas["Hand"];
  pocket: Schemas["Pocket"];
  why?: string | null;
  told: Told;
  units: Schemas["Units"];
  onChange: (told: Told) => void;
}) {
  const { told } = props;
  const at = (k: number) => told.pocket?.[k] ?? null;
  const tap = (k: number, value: Schemas["PocketTold"]) =>
    props.onChange({
      ...told,
      pocket: [0, 1, 2].map((s) => (s === k ? (at(k) === value ? null : value) : at(s))),
    });
  const faults = told.faults ?? [];
  const button = (name: string, on: boolean, press: () => void, label: string) => (
    <Toggle key={name} name={name} on={on} label={label} onPress={press} sx={PAD} />
  );
  return (
    <Box component="fieldset" sx={{ border: 0, p: 0, m: 0, minWidth: 0, display: "grid", gap: 0.75 }}>
      <Typography component="legend" sx={{ fontWeight: 700, p: 0 }}>
        Barrel {props.n + 1}, {props.turn}
      </Typography>
      {props.why && <Typography sx={{ fontSize: "0.92rem" }}>{props.why}</Typography>}
      {spotNames.map((spot, k) => (
        <Line key={spot} name={`${spot} ${onTape(props.units, props.pocket[spotKeys[k] ?? "entry"])}`}>
          {pockets.map(([value, name]) =>
            button(name, at(k) === value, () => tap(k, value), `Barrel ${props.n + 1} ${spot}: ${name}`),
          )}
        </Line>
      ))}
      <Line name="Rated">
        {rates.map(([value, name]) =>
          button(
            name,
            told.rate === value,
            () => props.onChange({ ...told, rate: told.rate === value ? null : value }),
            `Barrel ${props.n + 1} rated: ${name}`,
          ),
        )}
      </Line>
      <Box
        sx={{
          display: "grid",
          gap: 0.5,
          gridTemplateColumns: { xs: "repeat(3, minmax(0, 1fr))", sm: "repeat(6, minmax(0, 1fr))" },
          fontSize: "0.92rem",
        }}
      >
        {passFaults.map(([value, name]) =>
          button(
            name,
            faults.includes(value),
            () =>
              props.onChange({
                ...told,
                faults: faults.includes(value) ? faults.filter((f) => f !== value) : [...faults, value],
              }),
            `Barrel ${props.n + 1}: ${name}`,
          ),
        )}
        {button(
          "Down",
          !!told.knocked,
          () => props.onChange({ ...told, knocked: !told.knocked }),
          `Barrel ${props.n + 1}: knocked down`,
        )}
      </Box>
    </Box>
  );
}

function Line({ name, children }: { name: string; children: ReactNode }) {
  return (
    <Box
      sx={{ display: "grid", gridTemplateColumns: "104px minmax(0, 1fr)", alignItems: "center", gap: 0.75 }}
    >
      <Typography sx={{ fontSize: "0.95rem" }}>{name}</Typography>
      <Box sx={{ display: "flex", gap: 0.5 }}>{children}</Box>
    </Box>
  );
}
