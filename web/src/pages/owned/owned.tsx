import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import GlobalStyles from "@mui/material/GlobalStyles";
import Typography from "@mui/material/Typography";
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { curriculum, overrules, owned } from "../../api/queries";
import { CallStamp, HalfDots, statusWord } from "../../parts/mark";
import { PageLoading, PageTrouble } from "../../parts/states";
import { dayInFull } from "../../parts/words";
import { ink, inkSoft, paper, rule, sans, slab } from "../../theme/tokens";

type Horse = Schemas["OwnedBy"];
type Status = Schemas["Status"];
type Ladder = { letter: string; name: string; rungs: { id: string; name: string; steps: string[] }[] };

/** Width of a column of dots, in pixels. */
const DOT = 23;

const onPaper = (
  <GlobalStyles
    styles={{
      "@media print": {
        "@page": { size: "landscape", margin: "9mm" },
        body: { fontSize: "9pt" },
        button: { display: "none !important" },
      },
    }}
  />
);

/** Who owns what: horses down, ladders across, one page on paper. */
export function Owned() {
  const { data, error, refetch } = useQuery(owned);
  const book = useQuery(curriculum);
  const judged = useQuery(overrules);
  const trouble = error ?? book.error;
  if (trouble && !(data && book.data))
    return (
      <PageTrouble
        title="Couldn't load who owns what"
        detail={trouble.message}
        again={() => void refetch()}
      />
    );
  if (!data || !book.data) return <PageLoading what="who owns what" />;
  const ladders = laddersOf(book.data, data.horses);
  return (
    <>
      {onPaper}
      <Box sx={{ display: "flex", gap: 2, alignItems: "end", flexWrap: "wrap", mb: 0.5 }}>
        <Typography variant="h1" sx={{ flex: 1 }}>
          Who owns what
        </Typography>
        <Button variant="outlined" onClick={() => window.print()}>
          Print
        </Button>
      </Box>
      <Typography sx={{ color: inkSoft, mb: 1.5 }}>
        {dayInFull(data.date)}. One dot for each rung at its fastest gait: the left half is the left side.
        Full: owned. Bar: in work. Cross: slipping. Empty: not begun.
      </Typography>
      <Box sx={{ overflowX: "auto" }} tabIndex={0} role="region" aria-label="Who owns what">
        <Box component="table" sx={{ borderCollapse: "collapse", minWidth: 760, width: "100%" }}>
          <thead>
            <tr>
              <Box
                component="th"
                scope="col"
                rowSpan={2}
                sx={{ textAlign: "left", verticalAlign: "bottom", borderBottom: `2px solid ${ink}` }}
              >
                Horse
              </Box>
              {ladders.map((l) => (
                <Box
                  component="th"
                  scope="col"
                  key={l.letter}
                  sx={{
                    textAlign: "left",
                    verticalAlign: "top",
                    px: 0.75,
                    fontFamily: slab,
                    fontSize: "0.85rem",
                    lineHeight: 1.15,
                  }}
                >
                  {l.name}
                </Box>
              ))}
            </tr>
            <tr aria-hidden="true">
              {ladders.map((l) => (
                <Box
                  component="td"
                  key={l.letter}
                  sx={{ verticalAlign: "bottom", borderBottom: `2px solid ${ink}`, px: 0.75, pt: 0.75 }}
                >
                  <Box sx={{ display: "flex", gap: "2px", alignItems: "end" }}>
                    {l.rungs.map((r) => (
                      <RungName key={r.id}>{r.name}</RungName>
                    ))}
                  </Box>
                </Box>
              ))}
            </tr>
          </thead>
          <tbody>
            {data.horses.map((h) => (
              <Row key={h.id} horse={h} ladders={ladders} />
            ))}
          </tbody>
        </Box>
      </Box>
      {judged.data && judged.data.people.length > 0 && <Judged overrules={judged.data} />}
    </>
  );
}

/** Ladders on which any horse has reps, with the steps of each rung, slowest gait first. */
function laddersOf(book: Schemas["CurriculumOut"], horses: Horse[]): Ladder[] {
  const asked = new Set(horses.flatMap((h) => Object.keys(h.steps)));
  return book.ladders
    .map((l) => ({
      ...l,
      rungs: book.rungs
        .filter((r) => r.ladder === l.letter)
        .map((r) => ({
          id: r.id,
          name: r.name,
          steps: book.steps.filter((s) => s.rung === r.id).map((s) => s.id),
        })),
    }))
    .map((l) => ({ ...l, rungs: l.rungs.filter((r) => r.steps.some((s) => asked.has(s))) }))
    .filter((l) => l.rungs.length > 0);
}

function Row({ horse, ladders }: { horse: Horse; ladders: Ladder[] }) {
  return (
    <tr>
      <Box
        component="th"
        scope="row"
        sx={{ textAlign: "left", borderBottom: `1px solid ${rule}`, py: 0.75, pr: 1, whiteSpace: "nowrap" }}
      >
        <Box component={Link} to={`/horses/${horse.id}`} sx={{ color: ink }}>
          {horse.name}
        </Box>
        {horse.horse && (
          <Box className="no-print" sx={{ mt: 0.25 }}>
            <CallStamp call={horse.horse} />
          </Box>
        )}
      </Box>
      {ladders.map((l) => (
        <Box
          component="td"
          key={l.letter}
          sx={{ borderBottom: `1px solid ${rule}`, borderLeft: `1px solid ${rule}`, px: 0.75, py: 0.5 }}
        >
          <Box sx={{ display: "flex", gap: "2px" }}>
            {l.rungs.map((rung) => (
              <Dot key={rung.id} rung={rung} horse={horse} />
            ))}
          </Box>
        </Box>
      ))}
    </tr>
  );
}

/** A rung's name over its column of dots, read from below. */
function RungName({ children }: { children: string }) {
  return (
    <Box
      component="span"
      sx={{
        width: DOT,
        writingMode: "vertical-rl",
        transform: "rotate(180deg)",
        fontFamily: sans,
        fontSize: "0.78rem",
        fontWeight: 400,
        lineHeight: `${DOT}px`,
        whiteSpace: "nowrap",
      }}
    >
      {children}
    </Box>
  );
}

function Dot({ rung, horse }: { rung: Ladder["rungs"][number]; horse: Horse }) {
  const id = rung.steps.findLast((s) => horse.steps[s]);
  const at = id ? horse.steps[id] : undefined;
  const left: Status = at?.left ?? at?.status ?? "untried";
  const right: Status = at?.right ?? at?.status ?? "untried";
  const gait = id?.includes("@") ? ` at the ${id.split("@")[1] ?? ""}` : "";
  const word = (status: Status) => statusWord(status).toLowerCase();
  const stands = left === right ? word(left) : `left ${word(left)}, right ${word(right)}`;
  const words = `${rung.name}${gait}: ${stands}`;
  return (
    <Box
      component="span"
      role="img"
      aria-label={words}
      title={words}
      sx={{ display: "grid", justifyItems: "center", width: DOT }}
    >
      <HalfDots left={left} right={right} size={17} />
    </Box>
  );
}

function Judged({ overrules: list }: { overrules: Schemas["Overrules"] }) {
  return (
    <Box component="section" aria-labelledby="judged" className="no-print" sx={{ mt: 3, maxWidth: 760 }}>
      <Typography variant="h2" id="judged" sx={{ mb: 1 }}>
        Overrules, and who was right
      </Typography>
      {list.people.map((p) => (
        <Typography
          key={p.person_id}
          sx={{ background: paper, border: `1px solid ${rule}`, px: 1.5, py: 0.75 }}
        >
          <b>{p.person}</b> was right in {p.right} of {p.right + p.wrong}
          {p.open > 0 && `, ${p.open} not decided yet`}
        </Typography>
      ))}
      <Box component="ul" sx={{ listStyle: "none", m: 0, p: 0 }}>
        {list.items.slice(0, 8).map(({ horse, horse_id, overrule: o }) => (
          <Box component="li" key={o.id} sx={{ py: 0.75, borderBottom: `1px solid ${rule}` }}>
            <Link to={`/horses/${horse_id}`} style={{ color: ink, fontWeight: 650 }}>
              {horse}
            </Link>
            : {o.made} on {o.name.toLowerCase()}, against {o.was}. {o.reason}
          </Box>
        ))}
      </Box>
    </Box>
  );
}
