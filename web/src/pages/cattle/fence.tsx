import Box from "@mui/material/Box";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import { Refused, type Schemas } from "../../api/client";
import { positionName } from "../../parts/cattle-words";
import { Panel } from "../../parts/panel";
import { FormTrouble, PageLoading } from "../../parts/states";
import { inkSoft, oxblood, pine, slab } from "../../theme/tokens";
import { FenceDrawing, says } from "./fence-drawing";
import { useFence } from "./use-fence";

type Asked = Schemas["FenceIn"];

const begin: Asked = {
  long: 180,
  room: 15,
  cow_at: 30,
  cow_speed: 16,
  cow_tires_to: 11,
  cow_brake: 18,
  nose: 18,
  across: 8,
  speed: 14,
  delay: 0.4,
  accel: 8,
  top: 30,
  brake: 14,
};

const groups: [string, [keyof Asked, string][]][] = [
  [
    "The fence",
    [
      ["long", "Long, ft"],
      ["room", "Room to turn, ft"],
    ],
  ],
  [
    "The cow",
    [
      ["cow_at", "Head at, ft"],
      ["cow_speed", "Speed, ft/s"],
      ["cow_tires_to", "Tires to, ft/s"],
      ["cow_brake", "Stops, ft/s²"],
    ],
  ],
  [
    "The horse",
    [
      ["nose", "Nose at, ft"],
      ["across", "Off its line, ft"],
      ["speed", "Speed, ft/s"],
      ["top", "Top, ft/s"],
      ["accel", "Gains, ft/s²"],
      ["brake", "Stops, ft/s²"],
      ["delay", "Answers after, s"],
    ],
  ],
];

/** At the fence: can the horse get to the cow's head before it ends, and how fast a cow does it hold when the cow stops. */
export function Fence() {
  const [typed, setTyped] = useState<Partial<Record<keyof Asked, string>>>({});
  const [asked, setAsked] = useState(begin);
  const found = useFence(asked);
  const refused = found.error instanceof Refused ? found.error : null;
  const type = (key: keyof Asked, text: string) => {
    setTyped({ ...typed, [key]: text });
    const value = Number(text.replace(",", "."));
    if (text.trim() !== "" && Number.isFinite(value)) setAsked({ ...asked, [key]: value });
  };
  const wrong = (key: keyof Asked) => {
    const text = typed[key];
    if (text !== undefined && (text.trim() === "" || !Number.isFinite(Number(text.replace(",", ".")))))
      return "A number";
    return refused?.field(key);
  };
  return (
    <Box
      sx={{
        display: "grid",
        gap: 2,
        maxWidth: 1120,
        gridTemplateColumns: { xs: "1fr", md: "300px minmax(0, 1fr)" },
        alignItems: "start",
      }}
    >
      <Box sx={{ order: { xs: 1, md: 0 }, minWidth: 0 }}>
        <Panel name="What is known" tight>
          {groups.map(([name, fields]) => (
            <Box key={name} role="group" aria-label={name} sx={{ mb: 1.5 }}>
              <Typography variant="h2" sx={{ mb: 1, fontSize: "1.1rem" }}>
                {name}
              </Typography>
              <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 1 }}>
                {fields.map(([key, label]) => (
                  <TextField
                    key={key}
                    size="small"
                    label={label}
                    value={typed[key] ?? String(asked[key])}
                    onChange={(e) => type(key, e.target.value)}
                    error={!!wrong(key)}
                    helperText={wrong(key)}
                    slotProps={{ htmlInput: { inputMode: "decimal" } }}
                  />
                ))}
              </Box>
            </Box>
          ))}
        </Panel>
      </Box>
      <Box sx={{ display: "grid", gap: 2, minWidth: 0 }}>
        {refused?.problem.errors?.length ? null : <FormTrouble error={found.error} />}
        {found.data ? <Found asked={asked} found={found.data} /> : !found.error && <PageLoading what="it" />}
        <Typography sx={{ color: inkSoft, fontSize: "0.95rem" }}>
          Only when horse and footing allow it, and not a green horse on a fresh, running cow. Most of these
          numbers are told by feel: leave more room than it says.
        </Typography>
      </Box>
    </Box>
  );
}

function Found({ asked, found }: { asked: Asked; found: Schemas["FenceOut"] }) {
  return (
    <>
      <Panel by="head" tight>
        <Typography variant="h2" id="head" sx={{ mb: 0.5 }}>
          Getting to its head
        </Typography>
        <Box role="status" sx={{ fontFamily: slab, fontWeight: 700, fontSize: "1.2rem", mb: 1 }}>
          {says(asked, found)}
        </Box>
        <FenceDrawing asked={asked} found={found} />
        <Rows
          head={["The cow's head", "After", "Fence left", "Start it may have", "Top it takes"]}
          rows={found.marks.map((mark) => [
            positionName[mark.position],
            mark.made ? `${mark.made.seconds.toFixed(1)} s` : "Not made",
            mark.made ? `${mark.made.clear.toFixed(0)} ft` : "",
            mark.start >= 0 ? `${mark.start.toFixed(0)} ft` : `${(-mark.start).toFixed(0)} ft less`,
            mark.least_top ? `${mark.least_top.toFixed(0)} ft/s` : "None does",
          ])}
          good={found.marks.map((mark) => mark.made !== null && mark.made !== undefined)}
        />
      </Panel>
      <Panel by="hold" tight>
        <Typography variant="h2" id="hold" sx={{ mb: 0.5 }}>
          When the cow stops
        </Typography>
        <Box sx={{ mb: 1 }}>
          {found.most_speed == null
            ? "It stays in position at any speed."
            : `It stays in position on a cow of up to ${found.most_speed.toFixed(1)} ft/s.`}{" "}
          In position is within {found.band[1]} ft of even.
        </Box>
        <Rows
          head={["A cow of", "The horse goes past", ""]}
          rows={found.past.map((at) => [
            `${at.speed} ft/s`,
            at.past < 0 ? `${(-at.past).toFixed(1)} ft short` : `${at.past.toFixed(1)} ft`,
            at.holds ? "In position" : "Out of position",
          ])}
          good={found.past.map((at) => at.holds)}
        />
      </Panel>
    </>
  );
}

function Rows({ head, rows, good }: { head: string[]; rows: string[][]; good: boolean[] }) {
  return (
    <Box sx={{ overflowX: "auto" }} role="region" aria-label={head[0]} tabIndex={0}>
      <table style={{ borderCollapse: "collapse", width: "100%", fontVariantNumeric: "tabular-nums" }}>
        <thead>
          <tr>
            {head.map((name) => (
              <th key={name} scope="col" style={{ textAlign: "left", padding: "2px 8px", color: inkSoft }}>
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((row, n) => (
            <tr key={row[0]} style={{ borderLeft: `5px solid ${good[n] ? pine : oxblood}` }}>
              {row.map((cell, at) => (
                <td key={head[at]} style={{ padding: "4px 8px", fontWeight: at === 0 ? 650 : 400 }}>
                  {cell}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </Box>
  );
}
