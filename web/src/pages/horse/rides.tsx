import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { changes, horseRides } from "../../api/queries";
import { Empty, PageTrouble } from "../../parts/states";
import { day, placeName, sideName } from "../../parts/words";
import { ink, inkSoft, marigold, rule, sideColour } from "../../theme/tokens";
import { Dot } from "../ride/dots";
import { CorrectCount } from "./correct-count";
import { CorrectRep } from "./correct-rep";
import { SetRider } from "./set-rider";

type Rep = Schemas["RepOut"];

/** The horse's rides with every rep, to look at and to put right; and who put what right. */
export function Rides({
  horse,
  book,
  mayCorrect,
}: {
  horse: string;
  book: Schemas["CurriculumOut"];
  mayCorrect: boolean;
}) {
  // The last ride of each page before this one.
  const [newer, setNewer] = useState<string[]>([]);
  const [fixing, setFixing] = useState<{ rep: Rep; rung: string } | null>(null);
  const [counting, setCounting] = useState<{ id: string } | null>(null);
  const { data, error, refetch } = useQuery(horseRides(horse, newer.at(-1)));
  const trail = useQuery(changes(horse));
  const last = data?.items.at(-1);
  const sets = data?.items.flatMap((ride) => ride.sets) ?? [];
  const opened = sets.find((set) => set.id === counting?.id)?.counted;
  if (error && !data)
    return (
      <PageTrouble title="Couldn't load the rides" detail={error.message} again={() => void refetch()} />
    );
  return (
    <Box
      sx={{
        display: "grid",
        gap: 3,
        gridTemplateColumns: { xs: "minmax(0, 1fr)", lg: "minmax(0, 1fr) 360px" },
        alignItems: "start",
      }}
    >
      <Box component="section" aria-labelledby="rides">
        <Typography variant="h2" id="rides" sx={{ mb: 0.5 }}>
          Rides
        </Typography>
        {data?.items.length === 0 && <Empty>No rides yet.</Empty>}
        <Box component="ol" sx={{ listStyle: "none", m: 0, p: 0, borderTop: `2px solid ${ink}` }}>
          {data?.items.map((ride) => (
            <Box component="li" key={ride.id} sx={{ borderBottom: `1px solid ${rule}`, py: 1.25 }}>
              <Typography>
                <b>{day(ride.date)}</b>{" "}
                <Box component="span" sx={{ color: inkSoft }}>
                  {ride.rider_name}, {ride.ground_name ?? placeName[ride.place].toLowerCase()}
                  {ride.state === "open" ? ", still open" : ""}
                </Box>
              </Typography>
              {ride.sets.map((set) => (
                <Box
                  key={set.id}
                  sx={{
                    display: "grid",
                    gridTemplateColumns: { xs: "1fr", sm: "230px 1fr" },
                    alignItems: "center",
                    columnGap: 1.5,
                  }}
                >
                  <Box component="span" sx={{ fontSize: "0.95rem" }}>
                    {book.steps.find((s) => s.rung === set.rung && s.gait === set.gait)?.name ?? set.rung}{" "}
                    {set.side !== "both" && (
                      <Box component="b" sx={{ color: sideColour[set.side] }}>
                        {sideName[set.side]}
                      </Box>
                    )}{" "}
                    <SetRider ride={ride} set={set} mayCorrect={mayCorrect} />
                  </Box>
                  <Box sx={{ display: "flex", flexWrap: "wrap" }}>
                    {set.counted && (
                      <CountedAs
                        counted={set.counted}
                        faults={book.faults}
                        onOpen={mayCorrect ? () => setCounting({ id: set.id }) : undefined}
                      />
                    )}
                    {set.cow && <span>cow {set.cow}&ensp;</span>}
                    {set.reps.map((rep) => (
                      <Dot
                        key={rep.id}
                        rep={{ ...rep, seconds: rep.seconds ?? null, faults: rep.faults ?? [] }}
                        weights={book.weights}
                        onOpen={mayCorrect ? () => setFixing({ rep, rung: set.rung }) : undefined}
                      />
                    ))}
                  </Box>
                </Box>
              ))}
              {ride.note && (
                <Typography sx={{ borderLeft: `3px solid ${marigold}`, pl: 1, mt: 0.5 }}>
                  {ride.note}
                </Typography>
              )}
            </Box>
          ))}
        </Box>
        <Box sx={{ display: "flex", gap: 1.5, mt: 1.5 }}>
          <Button
            variant="outlined"
            disabled={newer.length === 0}
            onClick={() => setNewer(newer.slice(0, -1))}
          >
            Newer
          </Button>
          <Button
            variant="outlined"
            disabled={!data?.more || !last}
            onClick={() => last && setNewer([...newer, last.id])}
          >
            Older
          </Button>
        </Box>
      </Box>
      <Box component="section" aria-labelledby="trail">
        <Typography variant="h2" id="trail" sx={{ mb: 0.5 }}>
          Corrections
        </Typography>
        {trail.data?.items.length === 0 && (
          <Typography sx={{ color: inkSoft }}>
            Nothing was changed after it was logged. Select a rep or a count to put it right.
          </Typography>
        )}
        <Box component="ul" sx={{ listStyle: "none", m: 0, p: 0, display: "grid", gap: 1 }}>
          {trail.data?.items.map((c) => (
            <Box component="li" key={c.id} sx={{ borderLeft: `4px solid ${rule}`, pl: 1.25 }}>
              <b>{c.who}</b>,{" "}
              {new Date(c.at).toLocaleString("en-US", { dateStyle: "medium", timeStyle: "short" })}
              <Typography sx={{ fontSize: "0.95rem" }}>
                {c.rung} {c.side} of {day(c.ridden_on)}: <s>{c.before}</s> → {c.after ?? "taken out"}
              </Typography>
            </Box>
          ))}
        </Box>
      </Box>
      {counting && opened && (
        <CorrectCount horse={horse} id={counting.id} counted={opened} onClose={() => setCounting(null)} />
      )}
      {fixing && (
        <CorrectRep
          horse={horse}
          rep={fixing.rep}
          rung={fixing.rung}
          book={book}
          onClose={() => setFixing(null)}
        />
      )}
    </Box>
  );
}

/** What was counted, in words, with the faults that showed; a touch opens it to be put right. */
function CountedAs(props: {
  counted: Schemas["CountOut"];
  faults: Schemas["FaultOut"][];
  onOpen?: () => void;
}) {
  const { says, faults = [] } = props.counted;
  const named = faults.map((tag) => props.faults.find((f) => f.tag === tag)?.name.toLowerCase() ?? tag);
  const text = [says, ...named].join(", ");
  if (!props.onOpen) return <span>{text}</span>;
  return (
    <Box
      component="button"
      type="button"
      aria-label={`Correct: ${text}`}
      onClick={props.onOpen}
      sx={{
        font: "inherit",
        minHeight: 40,
        p: 0,
        border: 0,
        background: "none",
        color: ink,
        cursor: "pointer",
        textAlign: "left",
        textDecoration: "underline",
        textDecorationColor: rule,
        textUnderlineOffset: 4,
      }}
    >
      {text}
    </Box>
  );
}
