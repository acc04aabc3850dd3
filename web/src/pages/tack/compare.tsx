import Box from "@mui/material/Box";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { horseGear, piecesCompared } from "../../api/queries";
import { Panel } from "../../parts/panel";
import { Empty, FormTrouble, PageLoading } from "../../parts/states";
import { many } from "../../parts/words";
import { ink, inkSoft, marigoldDark, oxblood, pine, rule } from "../../theme/tokens";

const verdicts: Record<Schemas["VerdictOut"], { says: string; colour: string }> = {
  lighter: { says: "The change was right: the same answers for less.", colour: pine },
  heavier: { says: "The change was not right: it takes more, or fewer answers are whole.", colour: oxblood },
  alike: { says: "The piece changes little: what changed is the training.", colour: ink },
  unknown: { says: "It cannot be told yet: ride more days in both.", colour: marigoldDark },
};

type Gear = Schemas["GearOut"];
/** What a horse has two of is compared with its own kind; a bosal with a bit. */
const kindOf = (piece: Gear) => (piece.kind === "bosal" ? "bit" : piece.kind);

/** Every piece that has another to be compared with, the older first. */
export function comparable(gear: Gear[]): Gear[] {
  const has = (piece: Gear) => gear.some((other) => other !== piece && kindOf(other) === kindOf(piece));
  return gear.filter(has).sort((a, b) => a.since.localeCompare(b.since));
}

/** What is compared first: the two bits that came last, else the last two of any kind. */
export function lastTwo(own: Gear[]): [string, string] {
  const last = own.findLast((piece) => kindOf(piece) === "bit") ?? own.at(-1);
  const before = last && own.findLast((piece) => piece !== last && kindOf(piece) === kindOf(last));
  return [before?.id ?? "", last?.id ?? ""];
}

/** The same answers in two pieces of one horse, days and learning taken out: bits, saddles, spurs, boots, also those put away. */
export function Compare({ horse }: { horse: string }) {
  // The older piece first: was the change to the newer right?
  const own = comparable(useQuery(horseGear(horse)).data?.items ?? []);
  const [picked, setPicked] = useState<[string, string] | null>(null);
  const [first, second] = picked ?? lastTwo(own);
  const from = own.find((piece) => piece.id === first);
  const alike = own.filter((piece) => from && kindOf(piece) === kindOf(from));
  const pickFrom = (id: string) => {
    const kind = own.find((piece) => piece.id === id);
    const to = own.find((piece) => piece.id === second);
    const fits = kind && to && to.id !== id && kindOf(to) === kindOf(kind);
    const other = own.findLast((piece) => piece.id !== id && kind && kindOf(piece) === kindOf(kind));
    setPicked([id, fits ? second : (other?.id ?? "")]);
  };
  const two = first !== "" && second !== "" && first !== second;
  const { data, error } = useQuery({ ...piecesCompared(horse, first, second), enabled: two });
  const choice = (label: string, value: string, of: [string, string][], onPick: (id: string) => void) => (
    <TextField
      select
      label={label}
      value={value}
      onChange={(e) => onPick(e.target.value)}
      sx={{ width: { xs: "100%", sm: 240 } }}
    >
      {of.map(([id, name]) => (
        <MenuItem key={id} value={id}>
          {name}
        </MenuItem>
      ))}
    </TextField>
  );
  const names = (pieces: Gear[]) =>
    pieces.map((p): [string, string] => [p.id, p.archived ? `${p.name}, put away` : p.name]);
  const name = (id: string) => own.find((p) => p.id === id)?.name ?? "";
  if (own.length === 0) return null;
  return (
    <Panel name="The same answers in both">
      <Typography variant="h2" sx={{ mb: 1.5 }}>
        The same answers in two pieces
      </Typography>
      <Box sx={{ display: "flex", gap: 1.5, flexWrap: "wrap", mb: 1.5 }}>
        {choice("From", first, names(own), pickFrom)}
        {choice("To", second, names(alike), (id) => setPicked([first, id]))}
      </Box>
      {!two && <Empty>Pick two different pieces.</Empty>}
      <FormTrouble error={error} />
      {two && !data && !error && <PageLoading what="the answers" />}
      {two &&
        data &&
        (data.found ? (
          <Found found={data.found} days={data.days} names={[name(first), name(second)]} />
        ) : (
          <Typography>Not yet: {data.why_not}.</Typography>
        ))}
    </Panel>
  );
}

function Found(props: { found: Schemas["FoundOut"]; days: number[]; names: [string, string] }) {
  const { found, days, names } = props;
  const verdict = verdicts[found.verdict];
  return (
    <Box sx={{ display: "grid", gap: 2 }}>
      <Typography sx={{ fontSize: "1.2rem", fontWeight: 700, color: verdict.colour }}>
        {verdict.says}
      </Typography>
      <Typography>
        {many(found.kinds, "ask")} ridden in both: {names[0]} on {many(days[0] ?? 0, "day")} ({found.asks[0]}{" "}
        times), {names[1]} on {many(days[1] ?? 0, "day")} ({found.asks[1]} times).
      </Typography>
      <Times what="Weight on the reins" of={found.weight} />
      {found.seconds && <Times what="Seconds to the give" of={found.seconds} />}
      <Typography>
        Whole answers in a hundred: {points(found.whole.by)} ({points(found.whole.low)} to{" "}
        {points(found.whole.high)}); training alone {points(found.whole.in_a_month)} a month.
      </Typography>
      <Typography sx={{ color: inkSoft, fontSize: "0.95rem" }}>
        Like asks only: same rung, gait and side. How the horse was on a day and what it learned over time are
        taken out; nine times of ten the truth lies within the bar. Weight is what the rider held: a leverage
        bit makes more of it in the mouth, see the bench.
      </Typography>
    </Box>
  );
}

const points = (share: number) => {
  const whole = Math.round(share * 100);
  return whole === 0 ? "0" : `${whole > 0 ? "+" : "−"}${Math.abs(whole)}`;
};
/** A month's change of a ratio, in words. */
const month = (times: number) => {
  const percent = Math.round((times - 1) * 100);
  return percent === 0 ? "nothing" : `${percent > 0 ? "+" : "−"}${Math.abs(percent)} %`;
};

/** A ratio from a quarter to four times, on a scale where half and double are as far. */
function Times({ what, of }: { what: string; of: Schemas["RatioOut"] }) {
  const x = (times: number) => ((Math.log2(Math.min(4, Math.max(0.25, times))) + 2) / 4) * 400;
  const colour = of.high < 1 ? pine : of.low > 1 ? oxblood : ink;
  return (
    <Box component="figure" sx={{ m: 0 }}>
      <Typography component="figcaption" sx={{ fontWeight: 650 }}>
        {what}: {of.times.toFixed(2)} times{" "}
        <Box component="span" sx={{ color: inkSoft, fontWeight: 400 }}>
          ({of.low.toFixed(2)} to {of.high.toFixed(2)}); training alone {month(of.in_a_month)} a month
        </Box>
      </Typography>
      <svg viewBox="-36 0 472 44" width="100%" style={{ maxWidth: 560 }} role="img" aria-hidden="true">
        {[0.25, 0.5, 1, 2, 4].map((t) => (
          <g key={t}>
            <line
              x1={x(t)}
              x2={x(t)}
              y1={4}
              y2={26}
              stroke={t === 1 ? ink : rule}
              strokeWidth={t === 1 ? 2 : 1}
            />
            <text x={x(t)} y={41} fontSize={12} textAnchor="middle" fill={inkSoft}>
              {t === 0.25
                ? "a quarter"
                : t === 0.5
                  ? "half"
                  : t === 1
                    ? "the same"
                    : t === 2
                      ? "double"
                      : "4 times"}
            </text>
          </g>
        ))}
        <rect
          x={x(of.low)}
          width={Math.max(3, x(of.high) - x(of.low))}
          y={9}
          height={12}
          fill={colour}
          opacity={0.35}
        />
        <circle cx={x(of.times)} cy={15} r={6} fill={colour} />
      </svg>
    </Box>
  );
}
