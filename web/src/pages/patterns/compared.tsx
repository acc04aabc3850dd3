import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import type { Schemas } from "../../api/client";
import { day } from "../../parts/words";
import { rule, trackInks } from "../../theme/tokens";

type Pass = Schemas["PassOut"];

/** Seconds from one barrel to the next and home: as they were taken, else as the watch tells them. None where some are missing. */
export function parts(pass: Pass): number[] | null {
  const taken = pass.behind.length > 0 && pass.behind.every((t) => t !== null) && pass.seconds;
  const at = taken
    ? [...pass.behind, pass.seconds]
    : pass.track
      ? [...pass.track.behind, pass.track.seconds]
      : [];
  if (at.length === 0) return null;
  return at.map((t, n) => (t ?? 0) - (n === 0 ? 0 : (at[n - 1] ?? 0)));
}

/** Two passes part by part: where the time went. */
export function Compared({ passes }: { passes: Pass[] }) {
  const [first, second] = passes;
  if (!first || !second) return null;
  const [a, b] = [parts(first), parts(second)];
  if (!a || !b || a.length !== b.length)
    return (
      <Typography>These two were not ridden over as many barrels: their times do not compare.</Typography>
    );
  const name = (n: number) => (n + 1 === a.length ? "home" : `behind barrel ${n + 1}`);
  const sum = (of: number[]) => of.reduce((all, t) => all + t, 0);
  const row = (what: string, x: number, y: number) => (
    <tr key={what}>
      <th scope="row">{what}</th>
      <td>{x.toFixed(2)}</td>
      <td>{y.toFixed(2)}</td>
      <td>
        <b>
          {y > x ? "+" : "−"}
          {Math.abs(y - x).toFixed(2)}
        </b>
      </td>
    </tr>
  );
  return (
    <Box
      component="table"
      sx={{
        width: "100%",
        borderCollapse: "collapse",
        fontVariantNumeric: "tabular-nums",
        "& th, & td": { textAlign: "right", py: 0.5, borderTop: `1px solid ${rule}`, fontWeight: 400 },
        "& th:first-of-type": { textAlign: "left" },
        "& thead th": { fontWeight: 650, borderTop: 0 },
      }}
    >
      <caption style={{ textAlign: "left", fontWeight: 650 }}>Where the time went, seconds</caption>
      <thead>
        <tr>
          <th scope="col">to</th>
          {[first, second].map((pass, n) => (
            <th scope="col" key={pass.id}>
              <Box
                component="span"
                sx={{ borderBottom: `3px ${n === 0 ? "dashed" : "dotted"} ${trackInks[n]}` }}
              >
                {day(pass.on)}
              </Box>
            </th>
          ))}
          <th scope="col">difference</th>
        </tr>
      </thead>
      <tbody>
        {a.map((x, n) => row(name(n), x, b[n] ?? 0))}
        {row("in all", sum(a), sum(b))}
      </tbody>
    </Box>
  );
}
