import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import type { Schemas } from "../../api/client";
import { StatusMark } from "../../parts/mark";
import { inkSoft, paper, rule, slab } from "../../theme/tokens";
import { given, halvesSay } from "./halves";

/** What came out: the totals, part by part beside each other, where the points went, and how well the two agree. */
export function Result(props: { run: Schemas["ScoringOut"]; waits: boolean; onOpen: () => void }) {
  const { run } = props;
  if (props.waits)
    return (
      <Box role="status" sx={{ mt: 2 }}>
        Sending your score…
      </Box>
    );
  const sheets = [run.mine, ...run.others];
  const costs = run.points.filter((point) => point.mean < 0).slice(0, 3);
  return (
    <Box sx={{ mt: 1.5 }}>
      <Box sx={{ display: "flex", gap: 1.5, flexWrap: "wrap" }}>
        {sheets.map((sheet) => (
          <Box
            key={sheet.who}
            sx={{ background: paper, border: `1px solid ${rule}`, px: 2, py: 1, flex: "1 1 120px" }}
          >
            <Box sx={{ fontFamily: slab, fontWeight: 700, fontSize: "2.6rem", lineHeight: 1 }}>
              {sheet.total}
            </Box>
            <Box sx={{ color: inkSoft }}>{sheet.who}</Box>
          </Box>
        ))}
      </Box>
      {run.open.length > 0 && (
        <Box role="status" sx={{ mt: 1 }}>
          {run.open.join(" and ")} {run.open.length > 1 ? "are" : "is"} still scoring.
        </Box>
      )}
      {run.agree && <Agreement of={run.agree} />}
      <Box component="h2" sx={{ fontFamily: slab, fontSize: "1.2rem", mt: 2, mb: 0.5 }}>
        {costs.length > 0 ? "Where the points went" : "Nothing cost a point"}
      </Box>
      {costs.map((point) => (
        <Box key={point.manoeuvre} sx={{ display: "flex", gap: 1, py: 0.5, borderTop: `1px solid ${rule}` }}>
          <Box sx={{ minWidth: 52, fontWeight: 700 }}>{pointsSay(point.mean)}</Box>
          <Box sx={{ flex: 1 }}>{run.manoeuvres[point.manoeuvre]?.name}</Box>
          {point.status ? (
            <StatusMark status={point.status} />
          ) : (
            <span style={{ color: inkSoft }}>Not asked yet</span>
          )}
        </Box>
      ))}
      <Box component="table" sx={{ width: "100%", borderCollapse: "collapse", mt: 2 }}>
        <thead>
          <tr>
            <th style={{ textAlign: "left" }}>Part</th>
            {sheets.map((sheet) => (
              <th key={sheet.who} style={{ textAlign: "right" }}>
                {sheet.who}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {run.manoeuvres.map((part, n) => (
            <tr key={n} style={{ borderTop: `1px solid ${rule}` }}>
              <td style={{ padding: "6px 8px 6px 0" }}>{part.name}</td>
              {sheets.map((sheet) => (
                <td key={sheet.who} style={{ textAlign: "right", fontWeight: 650 }}>
                  {halvesSay(given(sheet.marks[n] ?? { score: 0, penalties: [] }))}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </Box>
      <Button variant="outlined" onClick={props.onOpen} sx={{ mt: 2 }}>
        Change my score
      </Button>
    </Box>
  );
}

const pointsSay = (points: number) =>
  `${points < 0 ? "−" : "+"}${Math.abs(points).toFixed(points % 0.5 === 0 ? 1 : 2)}`;

function Agreement({ of }: { of: Schemas["AgreeOut"] }) {
  const by = Math.abs(of.higher);
  const higher =
    by < 0.05 ? "" : ` ${of.with} scores ${by.toFixed(2)} ${of.higher > 0 ? "higher" : "lower"} on average.`;
  const kappa = of.kappa;
  return (
    <Box sx={{ mt: 1 }}>
      {kappa ? (
        <>
          You and {of.with} agree {kappa.strength}: weighted kappa {kappa.value.toFixed(2)}, between{" "}
          {kappa.between[0]?.toFixed(2)} and {kappa.between[1]?.toFixed(2)}. The same score {of.same} of{" "}
          {of.pairs} times.
        </>
      ) : (
        <>
          You and {of.with} gave the same score {of.same} of {of.pairs} times. How well you agree can be told
          after a few more.
        </>
      )}
      {higher}
    </Box>
  );
}
