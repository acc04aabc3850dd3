import Box from "@mui/material/Box";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { horseTack, today as todaysRides } from "../../api/queries";
import { doneInWords, FirstDay } from "../../parts/first-day";
import { Panel } from "../../parts/panel";
import { FormTrouble, PageLoading } from "../../parts/states";
import { useTackLog } from "../../parts/tack-log";
import { useMe } from "../../parts/me";
import { day, many } from "../../parts/words";
import { ink, inkSoft, oxblood, pine, rule } from "../../theme/tokens";
import { Compare } from "./compare";
import { Road } from "./road";
import { StepDown } from "./step-down";
import { TwoRein } from "./two-rein";

/** A horse's tack: its road, where it is on it, what comes next, and what the record says of the bits it has worn. */
export function HorseTack(props: {
  pieces: Schemas["PieceOut"][];
  horse: string;
  onPick: (horse: string) => void;
}) {
  const { horse, pieces } = props;
  const { data, error } = useQuery(horseTack(horse));
  const horses = [...new Map(pieces.map((p) => [p.horse_id, p.horse])).entries()];
  const own = pieces.filter((p) => p.horse_id === horse);
  const worn = own.filter((p) => data?.wears.includes(p.id));
  const wears = worn.map((p) => p.name);
  const isBridle = data?.road_id === "bridle";
  return (
    <Box sx={{ display: "grid", gap: 2, maxWidth: 1040 }}>
      <Box sx={{ display: "flex", gap: 2, flexWrap: "wrap", alignItems: "center" }}>
        <TextField
          select
          label="Horse"
          value={horse}
          onChange={(e) => props.onPick(e.target.value)}
          sx={{ width: { xs: "100%", sm: 240 } }}
        >
          {horses.map(([id, name]) => (
            <MenuItem key={id} value={id}>
              {name}
            </MenuItem>
          ))}
        </TextField>
        {wears.length > 0 && (
          <Typography>
            Last ridden in <b>{wears.join(" and ")}</b>
          </Typography>
        )}
      </Box>
      <FormTrouble error={error} />
      {!data && !error && <PageLoading what="the horse's tack" />}
      {data && <Road tack={data} />}
      {data?.first_day && <FirstDays horse={horse} list={data.first_day} />}
      {isBridle && <TwoRein horse={horse} />}
      {data?.step_down && <StepDown down={data.step_down} />}
      {data && own.length > 0 && <ShownIn pieces={worn.length > 0 ? worn : own} />}
      {data && <Compare key={horse} horse={horse} />}
    </Box>
  );
}

/** The list while it runs, on today's ride; once it is done, what it came to. */
function FirstDays(props: { horse: string; list: Schemas["FirstDayOut"] }) {
  const { list } = props;
  const { role, today } = useMe();
  const now = useQuery({ ...todaysRides, enabled: role !== "owner" }).data;
  const ride = now?.rides.find((entry) => entry.ride.horse_id === props.horse)?.ride.id;
  if (list.done) {
    const days = new Set(list.noted.map((n) => n.on)).size;
    return (
      <Panel name="First days in leverage">
        <Typography variant="h2">First days in leverage</Typography>
        <Typography sx={{ mb: 1 }}>
          {list.says}, in {many(days, "day")}.
        </Typography>
        <Box component="ol" sx={{ m: 0, pl: 3 }}>
          {list.steps.map((step, n) => (
            <li key={step.name}>
              <b>{step.name}</b>{" "}
              <Box component="span" sx={{ color: inkSoft }}>
                {doneInWords(list.noted.filter((x) => x.step === n))}
              </Box>
            </li>
          ))}
        </Box>
      </Panel>
    );
  }
  return (
    <Panel name="First day in leverage">
      <Typography variant="h2" sx={{ mb: 1 }}>
        First day in leverage
      </Typography>
      {ride && role !== "owner" ? (
        <OnRide ride={ride} list={list} />
      ) : (
        <>
          {role !== "owner" && (
            <Typography sx={{ mb: 1 }}>
              The list is kept with a ride: put one on{" "}
              <Link to="/" style={{ color: ink }}>
                Today
              </Link>{" "}
              first.
            </Typography>
          )}
          <FirstDay list={list} log={null} />
        </>
      )}
      {list.noted.length > 0 && (
        <Typography sx={{ color: inkSoft, mt: 1 }}>Begun {day(list.noted[0]?.on ?? today)}.</Typography>
      )}
    </Panel>
  );
}

function OnRide(props: { ride: string; list: Schemas["FirstDayOut"] }) {
  return <FirstDay list={props.list} log={useTackLog(props.ride)} />;
}

/** What the pieces may be shown in, class by class. */
function ShownIn(props: { pieces: Schemas["PieceOut"][] }) {
  return (
    <Panel name="Shown in">
      <Typography variant="h2" sx={{ mb: 0.5 }}>
        Shown in
      </Typography>
      <Box
        component="table"
        sx={{
          borderCollapse: "collapse",
          "& td, & th": { p: 0.75, textAlign: "left", verticalAlign: "top" },
        }}
      >
        <tbody>
          {props.pieces.map((piece) =>
            piece.classes.map((of) => (
              <Box component="tr" key={piece.id + of.class} sx={{ borderTop: `1px solid ${rule}` }}>
                <th scope="row">{piece.name}</th>
                <td>{of.class}</td>
                <Box component="td" sx={{ color: of.may ? pine : oxblood, fontWeight: 700 }}>
                  {of.may ? "yes" : "no"}
                  <Box component="span" sx={{ color: inkSoft, fontWeight: 400 }}>
                    : {of.why}
                  </Box>
                </Box>
              </Box>
            )),
          )}
        </tbody>
      </Box>
      <Typography sx={{ color: inkSoft, fontSize: "0.95rem", mt: 0.5 }}>
        From rule books, from memory; the port is not measured here. Local rules and the class decide.
      </Typography>
    </Panel>
  );
}
