import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import type { Schemas } from "../../api/client";
import { Panel } from "../../parts/panel";
import { Empty } from "../../parts/states";
import { dayOfMonth, many, percent } from "../../parts/words";
import { ink, inkSoft, leatherSoft, oxblood, pine, rule } from "../../theme/tokens";

type Down = Schemas["StepDownOut"];
type Week = Schemas["PairWeekOut"];

const said: Record<Down["said"], string> = {
  "on-two": "It braces on two reins more than on one",
  "no-difference": "Two reins make no difference",
  unknown: "More pairs are needed",
};

/** Whether the brace goes, in words. */
export function trendInWords(down: Down): string {
  if (!down.trend) return "Whether it goes shows from the third week on.";
  const [, low = 0, high = 0] = down.trend;
  if (high < 0) return "The difference shrinks week by week.";
  if (low > 0) return "The difference grows: go back a stage, and have the mouth and teeth seen.";
  return "Whether the difference shrinks cannot be told yet.";
}

/** The way down with a spoiled mouth: the same ask on one rein and on two, week by week. */
export function StepDown({ down }: { down: Down }) {
  const [one, two] = down.heads;
  const up = (heads: number[] | undefined) =>
    heads?.[0] ? percent((heads[1] ?? 0) / heads[0]) : "none asked";
  if (down.pairs === 0)
    return (
      <Panel name="One rein and two">
        <Typography variant="h2">One rein and two</Typography>
        <Empty>
          No pair was asked yet. On Ride, One rein or two says which to ask next; a few pairs each ride.
        </Empty>
      </Panel>
    );
  return (
    <Panel name="One rein and two">
      <Typography variant="h2">One rein and two</Typography>
      <Typography sx={{ fontWeight: 700 }}>
        {said[down.said]} ({many(down.pairs, "pair")}). {trendInWords(down)}
      </Typography>
      <Weeks weeks={down.weeks} />
      <Box
        component="table"
        sx={{ borderCollapse: "collapse", mt: 1.5, "& td, & th": { p: 0.75, textAlign: "left" } }}
      >
        <thead>
          <tr>
            <th scope="col">Gait</th>
            <th scope="col">Last two weeks</th>
            <th scope="col">Two reins</th>
          </tr>
        </thead>
        <tbody>
          {down.gaits.map((g) => (
            <Box component="tr" key={g.gait} sx={{ borderTop: `1px solid ${rule}` }}>
              <td>{g.gait}</td>
              <td>
                {g.on_two_only} of {many(g.pairs, "pair")} braced on two only
              </td>
              <Box component="td" sx={{ color: g.may ? pine : oxblood, fontWeight: 700 }}>
                {g.may ? "softly, low and wide" : "not yet"}{" "}
                <Box component="span" sx={{ color: inkSoft, fontWeight: 400 }}>
                  ({percent(g.likely)} likely under one in five)
                </Box>
              </Box>
            </Box>
          ))}
        </tbody>
      </Box>
      <Typography sx={{ mt: 1 }}>
        Head up at the ask: {up(one)} on one rein, {up(two)} on two.
      </Typography>
      <Typography sx={{ color: inkSoft, fontSize: "0.95rem", mt: 1 }}>
        Never two reins straight back until the neck lowers of itself. A spoiled mouth is often a sore one:
        teeth and mouth by a dentist or vet first.
      </Typography>
    </Panel>
  );
}

const HIGH = 90;
const WIDE = 46;

/** A bar a week: the share of pairs that braced on two only, and on one only. */
function Weeks({ weeks }: { weeks: Week[] }) {
  const share = (n: number, week: Week) => (HIGH * n) / week.pairs;
  const wide = Math.max(weeks.length, 8) * WIDE;
  return (
    <Box component="figure" sx={{ m: 0, mt: 1 }}>
      <svg
        viewBox={`-34 -10 ${wide + 40} ${HIGH + 34}`}
        width="100%"
        style={{ maxWidth: 760 }}
        role="img"
        aria-label={`${many(weeks.length, "week")}: ${weeks.map((w) => `${w.on_two_only} of ${w.pairs}`).join(", ")} braced on two only`}
      >
        {[0, 50, 100].map((at) => (
          <g key={at}>
            <line
              x1={0}
              x2={wide}
              y1={HIGH - (HIGH * at) / 100}
              y2={HIGH - (HIGH * at) / 100}
              stroke={rule}
            />
            <text x={-6} y={HIGH - (HIGH * at) / 100 + 4} fontSize={11} textAnchor="end" fill={inkSoft}>
              {at}
            </text>
          </g>
        ))}
        {weeks.map((week, n) => (
          <g key={week.week}>
            <rect
              x={n * WIDE + 6}
              y={HIGH - share(week.on_two_only, week)}
              width={18}
              height={share(week.on_two_only, week)}
              fill={oxblood}
            />
            <rect
              x={n * WIDE + 26}
              y={HIGH - share(week.on_one_only, week)}
              width={12}
              height={share(week.on_one_only, week)}
              fill={leatherSoft}
            />
            <text x={n * WIDE + 22} y={HIGH + 16} fontSize={11} textAnchor="middle" fill={ink}>
              {dayOfMonth(week.week)}
            </text>
          </g>
        ))}
      </svg>
      <Typography component="figcaption" sx={{ color: inkSoft, fontSize: "0.95rem" }}>
        Of a hundred pairs each week:{" "}
        <Box component="span" sx={{ borderBottom: `4px solid ${oxblood}`, color: ink, fontWeight: 700 }}>
          braced on two only
        </Box>{" "}
        and{" "}
        <Box component="span" sx={{ borderBottom: `4px solid ${leatherSoft}`, color: ink, fontWeight: 700 }}>
          on one only
        </Box>
        .
      </Typography>
    </Box>
  );
}
