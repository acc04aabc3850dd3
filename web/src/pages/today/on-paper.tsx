import Box from "@mui/material/Box";
import GlobalStyles from "@mui/material/GlobalStyles";
import type { Schemas } from "../../api/client";
import { clock, dayInFull, placeName } from "../../parts/words";
import { ink, slab } from "../../theme/tokens";

/** Printed, Today is a page a rider for the pocket, and nothing of the screen. */
const onPaper = {
  ".on-paper": { display: "none" },
  "@media print": {
    "@page": { size: "letter", margin: "14mm" },
    ".on-paper": { display: "block" },
    ".on-paper > section": { breakAfter: "page" },
    ".on-paper > section:last-of-type": { breakAfter: "auto" },
    ".on-paper tr": { breakInside: "avoid" },
  },
} as const;

/** A page a rider: the rides in order, what each is for, and room to write. */
export function OnPaper({ today }: { today: Schemas["TodayOut"] }) {
  const rides = today.rides.filter((r) => !r.ride.missed);
  const riders = [...new Map(rides.map((r) => [r.ride.rider_id, r.ride.rider_name]))];
  return (
    <>
      <GlobalStyles styles={onPaper} />
      <Box className="on-paper" aria-hidden="true">
        {riders.map(([id, name]) => (
          <section key={id}>
            <Box component="h1" sx={{ fontFamily: slab, fontSize: "18pt", m: 0, mb: "4mm" }}>
              {name}, {dayInFull(today.date)}
            </Box>
            <Box
              component="table"
              sx={{
                width: "100%",
                borderCollapse: "collapse",
                fontSize: "10pt",
                "& td": { borderTop: `1px solid ${ink}`, padding: "1.5mm 3mm 1.5mm 0", verticalAlign: "top" },
              }}
            >
              <tbody>
                {rides
                  .filter((r) => r.ride.rider_id === id)
                  .map((entry) => (
                    <PaperRow key={entry.ride.id} entry={entry} />
                  ))}
              </tbody>
            </Box>
          </section>
        ))}
      </Box>
    </>
  );
}

function PaperRow({ entry }: { entry: Schemas["TodayRide"] }) {
  const { ride, line } = entry;
  const main = line.main;
  const split = main?.left != null && main.right != null && `, left ${main.left} to right ${main.right}`;
  return (
    <tr>
      <td style={{ width: "16mm", fontWeight: 700 }}>{clock(ride.starts_at)}</td>
      <td>
        <b>{ride.horse_name}</b>, {ride.ground_name ?? placeName[ride.place].toLowerCase()}
        <br />
        {entry.horse ? (
          <b>{entry.horse.why[0]}</b>
        ) : (
          <>
            {line.loosen.length > 0 && `Loosen: ${line.loosen.map((s) => s.name).join(", ")}. `}
            {main ? (
              <>
                <b>{main.name}</b>
                {split}; {main.quit}
              </>
            ) : (
              "Keep what it owns, and ride out"
            )}
          </>
        )}
        {entry.cautions.slice(0, 2).map((c) => (
          <div key={c}>! {c}</div>
        ))}
        {entry.last_note && <div>From last time: {entry.last_note}</div>}
        <div style={{ borderBottom: `1px dotted ${ink}`, height: "7mm" }} />
      </td>
    </tr>
  );
}
