import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { trace } from "../../api/queries";
import { Panel } from "../../parts/panel";
import { CallStamp, StatusMark } from "../../parts/mark";
import { day, percent, sideName } from "../../parts/words";
import { Answers } from "./answers";
import { denim, ink, inkSoft, paper, rule, rust, sage, sideColour, softness } from "../../theme/tokens";

type Point = Schemas["TracePoint"];

/** One step over the days, mirrored about the middle line, and what is said about each side of it. */
export function TracePanel({
  horse,
  step,
  standing,
  book,
}: {
  horse: string;
  step: string;
  standing: Schemas["StandingOut"];
  book: Schemas["CurriculumOut"];
}) {
  const { data, error } = useQuery(trace(horse, step));
  const now = standing.steps.find((s) => s.id === step);
  const rung = book.rungs.find((r) => r.id === now?.rung);
  const standard = rung?.standard;
  const before = rung?.before;
  return (
    <Panel by="trace">
      <Typography variant="h2" id="trace">
        {now?.name ?? "Trace"}
      </Typography>
      {now && (
        <Box sx={{ display: "flex", gap: 1.5, flexWrap: "wrap", alignItems: "baseline" }}>
          <StatusMark status={now.status} />
          <Link to={`/book/${now.rung}`} style={{ color: ink }}>
            {now.rung} in the Book
          </Link>
        </Box>
      )}
      {standard && (
        <Typography sx={{ color: inkSoft, fontSize: "0.95rem" }}>Standard: {standard.words}</Typography>
      )}
      {before?.map((b) => (
        <Typography key={b.until} sx={{ color: inkSoft, fontSize: "0.92rem" }}>
          Until {day(b.until)}: {b.standard.words}
        </Typography>
      ))}
      {now?.sides.map((s) => (
        <Bar key={s.side} of={s} standard={standard?.share ?? 0.8} />
      ))}
      {error && <Typography role="alert">{error.message}</Typography>}
      {data && data.points.length === 0 && (
        <Typography sx={{ color: inkSoft, mt: 1 }}>No reps yet, so nothing to trace.</Typography>
      )}
      {data && data.points.length > 0 && <Mirror points={data.points} standard={data.standard} />}
      {data && data.answers.length > 0 && standard && (
        <Answers points={data.answers} weights={book.weights} standard={standard} />
      )}
      {data?.says.map((says) => (
        <Typography key={says} sx={{ mt: 0.75, fontSize: "0.95rem" }}>
          {says}.
        </Typography>
      ))}
      {now?.sides.map((s) => (
        <Box key={s.side} sx={{ mt: 1.5, borderLeft: `5px solid ${sideColour[s.side]}`, pl: 1.25 }}>
          <Box sx={{ display: "flex", gap: 1, alignItems: "center" }}>
            <b>{sideName[s.side]}</b>
            <CallStamp call={s.call} />
          </Box>
          {s.why.map((why) => (
            <Typography key={why} sx={{ fontSize: "0.95rem" }}>
              {why}
            </Typography>
          ))}
        </Box>
      ))}
    </Panel>
  );
}

/** The share of reps at the standard on an ordinary day, with its interval and the standard. */
function Bar({ of, standard }: { of: Schemas["SideStanding"]; standard: number }) {
  const at = (share: number) => `${share * 100}%`;
  return (
    <Box sx={{ display: "grid", gridTemplateColumns: "46px 44px 1fr", alignItems: "center", mt: 0.75 }}>
      <Box sx={{ color: sideColour[of.side], fontWeight: 700 }}>{sideName[of.side]}</Box>
      <b>{percent(of.share.mean)}</b>
      <Box sx={{ position: "relative", height: 26 }} aria-hidden="true">
        <Box sx={{ position: "absolute", inset: "4px 0", background: rule, opacity: 0.5 }} />
        <Box
          sx={{
            position: "absolute",
            top: 4,
            bottom: 4,
            left: 0,
            width: at(of.share.mean),
            background: softness(of.share.mean),
          }}
        />
        <Box
          sx={{
            position: "absolute",
            top: 12,
            height: "2px",
            left: at(of.share.low),
            width: at(of.share.high - of.share.low),
            background: ink,
          }}
        />
        <Box
          sx={{
            position: "absolute",
            top: 0,
            bottom: 0,
            left: at(standard),
            borderLeft: `2px dashed ${ink}`,
          }}
        />
      </Box>
    </Box>
  );
}

const WIDTH = 320;
const ROW = 15;
const MIDDLE = WIDTH / 2;
const REACH = MIDDLE - 12;

function Mirror({ points, standard }: { points: Point[]; standard: number }) {
  const dates = [...new Set(points.map((p) => p.date))].slice(-24);
  const shown = points.filter((p) => dates.includes(p.date));
  const gaps = daysOff(dates);
  const y = (date: string) => {
    const at = dates.indexOf(date);
    return 26 + at * ROW + gaps.filter((g) => g.before <= at).length * ROW;
  };
  const height = (dates.length + gaps.length) * ROW + 34;
  const both = shown.some((p) => p.side === "both");
  const lanes = both ? (["both", "both"] as const) : (["left", "right"] as const);
  const first = dates[0];
  const last = dates.at(-1);
  return (
    <Box component="figure" sx={{ m: 0, mt: 1 }}>
      <Box
        component="svg"
        viewBox={`0 0 ${WIDTH} ${height}`}
        role="img"
        aria-label={summary(shown)}
        sx={{ width: "100%", maxWidth: 360, display: "block" }}
      >
        {lanes.map((side, n) => {
          const sign = n === 0 ? -1 : 1;
          const x = (share: number) => MIDDLE + sign * share * REACH;
          const mine = shown.filter((p) => p.side === side);
          const colour = both ? sage : n === 0 ? denim : rust;
          return (
            <g key={sign}>
              {(!both || n === 0) && (
                <text
                  x={both ? MIDDLE : MIDDLE + sign * 14}
                  y={11}
                  textAnchor={both ? "middle" : n === 0 ? "end" : "start"}
                  fontSize="13"
                  fontWeight="700"
                  fill={colour}
                >
                  {sideName[side]}
                </text>
              )}
              <text x={x(standard)} y={11} textAnchor="middle" fontSize="12" fill={inkSoft}>
                {percent(standard)}
              </text>
              <line
                x1={x(standard)}
                x2={x(standard)}
                y1={16}
                y2={height - 4}
                stroke={ink}
                strokeDasharray="3 3"
              />
              <polygon points={band(mine, x, y)} fill={colour} opacity={0.16} />
              <polyline
                points={mine.map((p) => `${x(p.share.mean)},${y(p.date)}`).join(" ")}
                fill="none"
                stroke={colour}
                strokeWidth="2.5"
              />
              {mine.map((p) => (
                <circle
                  key={p.date}
                  cx={x(p.reps > 0 ? p.met / p.reps : p.share.mean)}
                  cy={y(p.date)}
                  r={2 + Math.min(3, p.reps / 5)}
                  fill={paper}
                  stroke={colour}
                  strokeWidth="1.6"
                />
              ))}
            </g>
          );
        })}
        <line x1={MIDDLE} x2={MIDDLE} y1={both ? 16 : 4} y2={height - 4} stroke={ink} strokeWidth="1.5" />
        {gaps.map((gap) => (
          <text
            key={gap.before}
            x={MIDDLE}
            y={y(dates[gap.before] ?? "") - ROW + 4}
            textAnchor="middle"
            fontSize="12"
            fontWeight="700"
            fill={ink}
            stroke={paper}
            strokeWidth="5"
            paintOrder="stroke"
          >
            {gap.days} days without it
          </text>
        ))}
      </Box>
      <Box component="figcaption" sx={{ color: inkSoft, fontSize: "0.88rem" }}>
        {first && day(first)} at the top to {last && day(last)}. Rings: that day. Line: an ordinary day.
        Dashes: the standard.
      </Box>
    </Box>
  );
}

/** A week or more between two days of a trace is shown as a gap. */
function daysOff(dates: string[]): { before: number; days: number }[] {
  return dates.flatMap((date, at) => {
    const last = dates[at - 1];
    const days = last ? (Date.parse(date) - Date.parse(last)) / 86_400_000 : 0;
    return days > 7 ? [{ before: at, days: days - 1 }] : [];
  });
}

function band(points: Point[], x: (share: number) => number, y: (date: string) => number): string {
  const low = points.map((p) => `${x(p.share.low)},${y(p.date)}`);
  const high = points.map((p) => `${x(p.share.high)},${y(p.date)}`).reverse();
  return [...low, ...high].join(" ");
}

function summary(points: Point[]): string {
  const sides = [...new Set(points.map((p) => p.side))];
  return sides
    .map((side) => {
      const last = points.findLast((p) => p.side === side);
      return last
        ? `${sideName[side]}: ${last.met} of ${last.reps} on ${day(last.date)}, ${percent(last.share.mean)} on an ordinary day`
        : "";
    })
    .join(". ");
}
