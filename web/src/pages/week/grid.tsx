import Box from "@mui/material/Box";
import { placeName } from "../../parts/words";
import { ink, inkSoft, marigold, paper, rule } from "../../theme/tokens";
import { Chip, chipStyles } from "./chip";
import { keyOf, type Ride, type Week } from "./use-week";

export type Lane = "rider" | "place";
/** Where a ride is put down: a day of a lane. */
export type Spot = { day: number; lane: string };

const dayName = new Intl.DateTimeFormat("en-US", { weekday: "short", day: "numeric", timeZone: "UTC" });

/** The lanes of a week: riders or places, in the order in which the server names them. */
function lanesOf(week: Week, by: Lane): { id: string; name: string }[] {
  return by === "rider"
    ? week.riders.map((r) => ({ id: r.id, name: r.name }))
    : week.places.map((p) => ({ id: p.place, name: placeName[p.place] }));
}

/** Days across, a lane a rider or a place. */
export function Grid(props: {
  week: Week;
  by: Lane;
  selected: string | null;
  carrying: boolean;
  onSelect: (key: string) => void;
  onDrag: (key: string) => void;
  onPut: (spot: Spot) => void;
  onKey: (ride: Ride, event: React.KeyboardEvent) => void;
}) {
  const { week, by } = props;
  const start = new Date(`${week.start}T00:00:00Z`);
  const days = Array.from({ length: 7 }, (_, n) => new Date(start.getTime() + n * 86_400_000));
  return (
    <Box
      role="region"
      aria-label="The week"
      tabIndex={0}
      sx={{
        overflowX: "auto",
        borderTop: `2px solid ${ink}`,
        borderBottom: `2px solid ${ink}`,
        ...chipStyles,
      }}
    >
      <Box sx={{ display: "grid", gridTemplateColumns: "84px repeat(7, minmax(128px, 1fr))", minWidth: 990 }}>
        <span />
        {days.map((date, day) => (
          <DayHead key={day} name={dayName.format(date)} week={week} day={day} />
        ))}
        {week.appointments.length > 0 && <Appointments week={week} />}
        {lanesOf(week, by).map((lane) => (
          <Box key={lane.id} sx={{ display: "contents" }}>
            <Box sx={{ borderTop: `1px solid ${rule}`, py: 0.75, pr: 1, fontWeight: 650, lineHeight: 1.15 }}>
              {lane.name}
              <Box
                component="span"
                sx={{ display: "block", fontWeight: 400, color: inkSoft, fontSize: "0.84rem" }}
              >
                {week.rides.filter((r) => (by === "rider" ? r.rider : r.place) === lane.id).length} rides
              </Box>
            </Box>
            {days.map((_, day) => (
              <Cell key={day} {...props} spot={{ day, lane: lane.id }} name={lane.name} />
            ))}
          </Box>
        ))}
      </Box>
    </Box>
  );
}

function DayHead({ name, week, day }: { name: string; week: Week; day: number }) {
  const heat = week.heat.filter((h) => h.day === day);
  const first = heat[0];
  const last = heat.at(-1);
  const over = day < week.first_open;
  return (
    <Box
      sx={{ px: 0.75, py: 0.5, borderLeft: `1px solid ${rule}`, color: over ? inkSoft : ink, minHeight: 52 }}
    >
      <Box
        component="span"
        sx={{
          fontFamily: "Bitter Variable",
          fontWeight: 650,
          borderBottom: week.today === day ? `4px solid ${marigold}` : "none",
        }}
      >
        {name}
      </Box>
      {first && last && (
        <Box
          component="span"
          sx={{ display: "block", fontSize: "0.82rem", fontWeight: 600, color: "#7A4E00" }}
        >
          hot {first.from}–{last.to}
        </Box>
      )}
    </Box>
  );
}

/** A lane above the riders for what else stands in the week. */
function Appointments({ week }: { week: Week }) {
  const names = (ids: string[], of: { id: string; name: string }[]) =>
    of.filter((x) => ids.includes(x.id)).map((x) => x.name);
  return (
    <Box sx={{ display: "contents" }}>
      <Box sx={{ borderTop: `1px solid ${rule}`, py: 0.75, pr: 1, color: inkSoft, lineHeight: 1.15 }}>
        Besides
      </Box>
      {[0, 1, 2, 3, 4, 5, 6].map((day) => (
        <Box
          key={day}
          sx={{ borderTop: `1px solid ${rule}`, borderLeft: `1px solid ${rule}`, p: "3px", minWidth: 0 }}
        >
          {week.appointments
            .filter((a) => a.day === day)
            .map((a) => {
              const who = [...names(a.horses, week.horses), ...names(a.people, week.riders)];
              const hours = a.from === "00:00" && a.to === "24:00" ? "all day" : `${a.from}–${a.to}`;
              return (
                <Box
                  key={a.id}
                  title={`${a.title}, ${hours}: ${who.join(", ")}`}
                  sx={{
                    borderLeft: `4px solid ${a.kind === "show" ? ink : marigold}`,
                    background: paper,
                    px: 0.75,
                    mb: "3px",
                    fontSize: "0.84rem",
                    lineHeight: 1.25,
                    overflowWrap: "anywhere",
                  }}
                >
                  <b>{a.title}</b> {hours}
                  <Box
                    component="span"
                    sx={{
                      display: "block",
                      overflow: "hidden",
                      textOverflow: "ellipsis",
                      whiteSpace: "nowrap",
                      color: inkSoft,
                    }}
                  >
                    {who.length > 2 ? `${who.length} of the string` : who.join(", ")}
                  </Box>
                </Box>
              );
            })}
        </Box>
      ))}
    </Box>
  );
}

function Cell(props: Parameters<typeof Grid>[0] & { spot: Spot; name: string }) {
  const { week, by, spot, carrying } = props;
  const over = spot.day < week.first_open;
  const rides = week.rides
    .filter((r) => r.day === spot.day && (by === "rider" ? r.rider : r.place) === spot.lane)
    .sort((a, b) => (a.start + a.work < b.start + b.work ? -1 : 1));
  const away = week.away.filter((a) => a.day === spot.day && a.person_id === spot.lane);
  return (
    <Box
      onDragOver={(e) => !over && e.preventDefault()}
      onDrop={(e) => (e.preventDefault(), props.onPut(spot))}
      sx={{
        borderTop: `1px solid ${rule}`,
        borderLeft: `1px solid ${rule}`,
        p: "3px",
        display: "grid",
        gridTemplateColumns: "minmax(0, 1fr)",
        gap: "3px",
        alignContent: "start",
        minWidth: 0,
        minHeight: 62,
        background: over
          ? `repeating-linear-gradient(135deg, transparent 0 7px, ${rule}55 7px 8px)`
          : "transparent",
      }}
    >
      {rides.map((ride) => (
        <Chip
          key={keyOf(ride)}
          week={week}
          ride={ride}
          lane={by}
          selected={props.selected === keyOf(ride)}
          onSelect={() => props.onSelect(keyOf(ride))}
          onDrag={() => props.onDrag(keyOf(ride))}
          onKey={(event) => props.onKey(ride, event)}
        />
      ))}
      {away.map((a) => (
        <Box
          key={a.id}
          sx={{ fontSize: "0.84rem", color: inkSoft, borderLeft: `3px solid ${marigold}`, pl: 0.5 }}
        >
          {a.why}
          {a.from !== "00:00" && `, ${a.from}–${a.to}`}
        </Box>
      ))}
      {carrying && !over && (
        <Box
          component="button"
          type="button"
          onClick={() => props.onPut(spot)}
          aria-label={`Put it here: ${props.name}, day ${spot.day + 1}`}
          sx={{
            font: "inherit",
            fontSize: "0.86rem",
            minHeight: 30,
            border: `1.5px dashed ${ink}`,
            background: paper,
            cursor: "pointer",
          }}
        >
          Here
        </Box>
      )}
    </Box>
  );
}
