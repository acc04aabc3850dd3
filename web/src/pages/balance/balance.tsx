import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import { useQuery } from "@tanstack/react-query";
import { useState, type ReactNode } from "react";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { balance } from "../../api/queries";
import { OneOf } from "../../parts/one-of";
import { Empty, PageLoading, PageTrouble } from "../../parts/states";
import { day, missedName } from "../../parts/words";
import { denim, ink, inkSoft, leather, marigold, oxblood, rule, sageDark } from "../../theme/tokens";
import { BarRow, Bars } from "./bars";

const spans: [number, string][] = [
  [13, "3 months"],
  [26, "6 months"],
  [52, "A year"],
];
const total = (numbers: number[]) => numbers.reduce((a, b) => a + b, 0);

/** How the work was spread over months: by horse, by rider, by subject, and what was planned and not ridden. */
export function Balance() {
  const [weeks, setWeeks] = useState(13);
  const { data, error, refetch } = useQuery(balance(weeks));
  if (error && !data)
    return (
      <PageTrouble title="Couldn't load the balance" detail={error.message} again={() => void refetch()} />
    );
  if (!data) return <PageLoading what="the balance" />;
  const first = data.weeks[0];
  const ridden = total(data.riders.flatMap((r) => r.rides));
  return (
    <>
      <Box sx={{ display: "flex", alignItems: "end", gap: 2, flexWrap: "wrap", mb: 2 }}>
        <Box sx={{ flex: 1, minWidth: 240 }}>
          <Typography variant="h1">Balance</Typography>
          <Typography sx={{ color: inkSoft }}>
            {ridden} rides since {first && day(first)}, one bar for each week; the hollow one is this{" "}
            <Link to="/week" style={{ color: ink, fontWeight: 650 }}>
              week
            </Link>
            .
          </Typography>
        </Box>
        <OneOf label="How far back" of={spans} picked={weeks} onPick={setWeeks} />
      </Box>
      {ridden === 0 && <Empty>Nothing was ridden in these weeks.</Empty>}
      {ridden > 0 && (
        <>
          <Horses balance={data} />
          <Box sx={{ display: "grid", gap: 3, mt: 3, gridTemplateColumns: { xs: "1fr", lg: "1fr 1fr" } }}>
            <Section title="Who rode">
              <Rows rows={data.riders} colour={denim} title="Who rode" />
            </Section>
            <Section title="What was worked">
              <Rows rows={data.subjects} colour={marigold} title="What was worked" />
            </Section>
            <Missed missed={data.missed} />
          </Box>
        </>
      )}
    </>
  );
}

function Section({ title, children }: { title: string; children: ReactNode }) {
  return (
    <Box component="section" sx={{ minWidth: 0 }}>
      <Typography variant="h2" sx={{ borderBottom: `2px solid ${ink}`, pb: 0.5 }}>
        {title}
      </Typography>
      {children}
    </Box>
  );
}

function Rows({ rows, colour, title }: { rows: Schemas["Row"][]; colour: string; title: string }) {
  const most = Math.max(1, ...rows.flatMap((r) => r.rides));
  return (
    <Box role="region" aria-label={`${title}, week by week`} tabIndex={0} sx={{ overflowX: "auto" }}>
      <Box component="ul" sx={{ listStyle: "none", m: 0, p: 0 }}>
        {rows.map((r) => (
          <BarRow
            key={r.id}
            name={r.name}
            values={r.rides}
            most={most}
            colour={colour}
            figure={`${total(r.rides)} rides`}
          />
        ))}
      </Box>
    </Box>
  );
}

function Missed({ missed }: { missed: Schemas["Missed"][] }) {
  const all = total(missed.map((m) => m.rides));
  return (
    <Section title="Planned and not ridden">
      {all === 0 && <Typography sx={{ color: inkSoft, pt: 1 }}>Every planned ride was ridden.</Typography>}
      <Box component="ul" sx={{ listStyle: "none", m: 0, p: 0 }}>
        {missed.map((m) => (
          <Box
            component="li"
            key={m.why ?? "unsaid"}
            sx={{
              display: "grid",
              gridTemplateColumns: "150px minmax(0, 1fr) 40px",
              gap: 1.5,
              alignItems: "center",
              py: 0.5,
              borderTop: `1px solid ${rule}`,
            }}
          >
            <b>{m.why ? missedName[m.why] : "No reason given"}</b>
            <Box
              aria-hidden="true"
              sx={{ height: 14, width: `${(100 * m.rides) / all}%`, background: oxblood }}
            />
            <Box component="span" sx={{ textAlign: "right" }}>
              {m.rides}
            </Box>
          </Box>
        ))}
      </Box>
    </Section>
  );
}

function Horses({ balance }: { balance: Schemas["Balance"] }) {
  const loads = balance.horses.flatMap((h) => h.weeks.map((w) => w.load));
  const heaviest = Math.max(1, ...loads);
  const over = balance.weeks.length - 1;
  return (
    <Box role="region" aria-label="Horses" tabIndex={0} sx={{ overflowX: "auto" }}>
      <Box component="table" sx={{ borderCollapse: "collapse", width: "100%", minWidth: 760 }}>
        <thead>
          <Box
            component="tr"
            sx={{
              textAlign: "left",
              "& th": { borderBottom: `2px solid ${ink}`, pb: 0.5, pr: 2, fontWeight: 650 },
            }}
          >
            <th>Horse</th>
            <th>Rides a week</th>
            <th>As agreed</th>
            <th>Load a week</th>
            <th>Monotony, last week</th>
            <th>Days out</th>
          </Box>
        </thead>
        <tbody>
          {balance.horses.map((h) => (
            <HorseRow key={h.id} of={h} heaviest={heaviest} over={over} />
          ))}
        </tbody>
      </Box>
      <Typography sx={{ color: inkSoft, fontSize: "0.92rem", mt: 1 }}>
        Load is minutes × intensity by gait. Monotony: their mean load over its spread (Foster 1998); from{" "}
        {balance.too_much_alike} or more the days are too much alike: put easy days between hard ones.
      </Typography>
    </Box>
  );
}

function HorseRow({ of, heaviest, over }: { of: Schemas["HorseBalance"]; heaviest: number; over: number }) {
  const rides = of.weeks.map((w) => w.rides);
  const loads = of.weeks.map((w) => w.load);
  const last = of.weeks[over - 1];
  const least = of.least ?? undefined;
  return (
    <Box
      component="tr"
      sx={{ "& td, & th": { borderTop: `1px solid ${rule}`, py: 0.75, pr: 2, verticalAlign: "bottom" } }}
    >
      <Box component="th" scope="row" sx={{ textAlign: "left" }}>
        <Link to={`/horses/${of.id}`} style={{ color: ink }}>
          {of.name}
        </Link>
      </Box>
      <td>
        <Bars
          values={rides}
          most={7}
          line={least}
          colour={(_, week) => (of.weeks[week]?.kept === false ? oxblood : sageDark)}
          says={`Rides, week by week: ${rides.join(", ")}${least === undefined ? "" : `; at least ${least} were agreed on`}`}
        />
      </td>
      <td>
        {of.kept == null ? (
          <Box component="span" sx={{ color: inkSoft }}>
            nothing agreed
          </Box>
        ) : (
          <>
            <b>{of.judged === 0 ? "Too early" : `${of.kept} of ${of.judged} weeks`}</b>, {of.least}–{of.most}
          </>
        )}
      </td>
      <td>
        <Bars
          values={loads}
          most={heaviest}
          colour={() => leather}
          says={`Load, week by week: ${loads.join(", ")}`}
        />
      </td>
      <td>
        {last?.monotony == null ? (
          "–"
        ) : (
          <Box component="span" sx={{ fontWeight: 650, color: last.too_much_alike ? oxblood : ink }}>
            {last.monotony.toFixed(1)}
            {last.too_much_alike && " too even"}
          </Box>
        )}
      </td>
      <td>{total(of.weeks.map((w) => w.out))}</td>
    </Box>
  );
}
