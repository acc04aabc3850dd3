import Box from "@mui/material/Box";
import { useMemo } from "react";
import { Chip } from "./chip";
import { gridStyle } from "./grid-style";
import { useOnTheWall } from "./on-the-wall";
import { lanesOf, ridesBySpot, type Lane, type Spot } from "./spots";
import { keyOf, type Ride, type Week } from "./use-week";

const dayName = new Intl.DateTimeFormat("en-US", { weekday: "short", day: "numeric", timeZone: "UTC" });
const DAYS = [0, 1, 2, 3, 4, 5, 6];

const rideAt = (event: React.SyntheticEvent) =>
  (event.target as Element).closest<HTMLElement>("[data-ride]")?.dataset.ride;

/** Days across, a lane a rider or a place. */
export function Grid(props: {
  week: Week;
  by: Lane;
  selected: string | null;
  carrying: boolean;
  onSelect: (key: string) => void;
  onDrag: (key: string) => void;
  onPut: (spot: Spot) => void;
  onKey: (key: string, event: React.KeyboardEvent) => void;
}) {
  const { week, by } = props;
  const wall = useOnTheWall();
  const ridesAt = useMemo(() => ridesBySpot(week.rides, by), [week.rides, by]);
  const on = (does: (key: string, event: never) => void) => (event: React.SyntheticEvent) => {
    const key = rideAt(event);
    if (key) does(key, event as never);
  };
  return (
    <Box
      role="region"
      aria-label="The week"
      tabIndex={0}
      ref={wall}
      onClick={on(props.onSelect)}
      onDragStart={on(props.onDrag)}
      onKeyDown={on(props.onKey)}
      sx={gridStyle}
    >
      <div className="days">
        <div className="row">
          <span />
          {DAYS.map((day) => (
            <DayHead key={day} week={week} day={day} />
          ))}
        </div>
        {week.appointments.length > 0 && <Appointments week={week} />}
        {lanesOf(week, by).map((lane) => (
          <LaneOf key={lane.id} {...props} lane={lane} ridesAt={ridesAt} />
        ))}
      </div>
    </Box>
  );
}

function DayHead({ week, day }: { week: Week; day: number }) {
  const name = dayName.format(new Date(Date.parse(`${week.start}T00:00:00Z`) + day * 86_400_000));
  const heat = week.heat.filter((h) => h.day === day);
  const [first, last] = [heat[0], heat.at(-1)];
  return (
    <div className={`day${day < week.first_open ? " over" : ""}${week.today === day ? " today" : ""}`}>
      <b>{name}</b>
      {first && last && (
        <span className="hot">
          hot {first.from}–{last.to}
        </span>
      )}
    </div>
  );
}

/** A lane above the riders for what else stands in the week. */
function Appointments({ week }: { week: Week }) {
  const names = (ids: string[], of: { id: string; name: string }[]) =>
    of.filter((x) => ids.includes(x.id)).map((x) => x.name);
  return (
    <div className="row">
      <div className="lane soft">Other</div>
      {DAYS.map((day) => (
        <div key={day} className="cell besides">
          {week.appointments
            .filter((a) => a.day === day)
            .map((a) => {
              const who = [...names(a.horses, week.horses), ...names(a.people, week.riders)];
              const hours = a.from === "00:00" && a.to === "24:00" ? "all day" : `${a.from}–${a.to}`;
              return (
                <div
                  key={a.id}
                  className={a.kind === "show" ? "show" : undefined}
                  title={`${a.title}, ${hours}: ${who.join(", ")}`}
                >
                  <b>{a.title}</b> {hours}
                  <span className="cut who">{who.length > 2 ? `${who.length} horses` : who.join(", ")}</span>
                </div>
              );
            })}
        </div>
      ))}
    </div>
  );
}

type InLane = Parameters<typeof Grid>[0] & {
  lane: { id: string; name: string };
  ridesAt: (spot: Spot) => Ride[];
};

function LaneOf(props: InLane) {
  const { lane, ridesAt } = props;
  const days = DAYS.map((day) => ridesAt({ day, lane: lane.id }));
  const rides = days.reduce((sum, there) => sum + there.length, 0);
  return (
    <div className="row long">
      <div className="lane">
        {lane.name}
        <span>{rides} rides</span>
      </div>
      {days.map((there, day) => (
        <Cell key={day} {...props} day={day} rides={there} />
      ))}
    </div>
  );
}

function Cell(props: InLane & { day: number; rides: Ride[] }) {
  const { week, by, day, lane, carrying } = props;
  const over = day < week.first_open;
  const away = week.away.filter((a) => a.day === day && a.person_id === lane.id);
  const put = () => props.onPut({ day, lane: lane.id });
  return (
    <div
      className={over ? "cell over" : "cell"}
      onDragOver={(e) => !over && e.preventDefault()}
      onDrop={(e) => (e.preventDefault(), put())}
    >
      {props.rides.map((ride) => (
        <Chip
          key={keyOf(ride)}
          works={week.works}
          horses={week.horses}
          riders={week.riders}
          ride={ride}
          lane={by}
          selected={props.selected === keyOf(ride)}
        />
      ))}
      {away.map((a) => (
        <div key={a.id} className="off">
          {a.why}
          {a.from !== "00:00" && `, ${a.from}–${a.to}`}
        </div>
      ))}
      {carrying && !over && (
        <button
          type="button"
          className="here"
          onClick={put}
          aria-label={`Put it here: ${lane.name}, day ${day + 1}`}
        >
          Here
        </button>
      )}
    </div>
  );
}
