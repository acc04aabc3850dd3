import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState, type KeyboardEvent } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { api, ask, Refused } from "../../api/client";
import { curriculumOf, horse, rideChanged, standing } from "../../api/queries";
import { useMe } from "../../parts/me";
import { FormTrouble, PageLoading, PageTrouble } from "../../parts/states";
import { useWheres, whereKey } from "../../parts/where";
import { sideName } from "../../parts/words";
import { ink, inkSoft, oxblood, paper, rule, white } from "../../theme/tokens";
import { CountFields } from "../../parts/count-fields";
import { blankDraft } from "../../parts/counts";
import { OWN, useWhichRide, type WhichRide } from "./use-which-ride";
import { AlsoToldFields, useAlsoTold } from "./also-told";
import { blankLine, filled, measureOf, readLines, type Line } from "./lines";
import { newId } from "../../parts/ids";

const input = {
  font: "inherit",
  minHeight: 44,
  border: `1.5px solid ${ink}`,
  background: white,
  px: 1,
  width: "100%",
  minWidth: 0,
};

/** The same ride from memory: a line a set, with the keyboard alone. */
export function Afterwards() {
  const { id: horseId = "" } = useParams();
  const me = useMe();
  const client = useQueryClient();
  const navigate = useNavigate();
  const it = useQuery(horse(horseId));
  const book = useQuery(curriculumOf(horseId));
  const now = useQuery(standing(horseId));
  const [rideId] = useState(() => newId());
  const [date, setDate] = useState(me.today);
  const [note, setNote] = useState("");
  const [lines, setLines] = useState<Line[]>(() => [blankLine(undefined)]);
  const which = useWhichRide(horseId, date, me);
  const also = useAlsoTold(horseId);
  const save = useMutation({
    mutationFn: async (typed: Line[]) =>
      ask(
        api.PUT("/api/rides/{id}", {
          params: { path: { id: which.fills === OWN ? rideId : (which.fills ?? rideId) } },
          body: {
            horse_id: horseId,
            rider_id: which.rider,
            date,
            starts_at: null,
            ...which.at,
            entered: "afterwards",
            sets: book.data ? readLines(typed, book.data) : [],
            note,
            ...also.sent(),
          },
        }),
      ),
    onSuccess: () => {
      rideChanged(client, horseId);
      void navigate(`/horses/${horseId}`);
    },
  });
  const error = it.error ?? book.error;
  if (error) return <PageTrouble title="Couldn't load the horse" detail={error.message} />;
  if (!it.data || !book.data || now.isPending) return <PageLoading what="the horse" />;
  const { rungs, steps, weights } = book.data;
  const first = steps.find((s) => s.id === now.data?.line.main?.id) ?? steps[0];
  const shown = lines.map((l) =>
    l.step ? l : { ...l, step: first?.id ?? "", side: first?.sides[0] ?? "both" },
  );
  const refused = save.error instanceof Refused ? save.error : null;
  const change = (n: number, with_: Partial<Line>) =>
    setLines(shown.map((l, k) => (k === n ? { ...l, ...with_ } : l)));
  const pickStep = (n: number, stepId: string) => {
    const step = steps.find((s) => s.id === stepId);
    if (step) change(n, { step: step.id, side: step.sides[0] ?? "both", count: blankDraft, fault: "" });
  };
  const another = () => {
    const last = shown.at(-1);
    const step = steps.find((s) => s.id === last?.step);
    const other = step?.sides.find((s) => s !== last?.side);
    setLines([
      ...shown,
      { ...blankLine(step), side: other ?? last?.side ?? "both", weight: last?.weight ?? "lemon" },
    ]);
  };
  const submit = () => {
    if (which.fills !== null) save.mutate(shown);
  };
  const wrongIn = (line: Line) => {
    const at = filled(save.variables ?? [], book.data).findIndex((l) => l.id === line.id);
    return refused?.problem.errors?.filter((e) => e.field.startsWith(`sets[${at}]`)) ?? [];
  };
  const keys = (e: KeyboardEvent) => {
    if (e.key !== "Enter" || (e.target as HTMLElement).tagName === "BUTTON") return;
    e.preventDefault();
    if (e.ctrlKey || e.metaKey) submit();
    else another();
  };
  const headings = ["Rung and gait", "Side", "Gave", "Tried", "None", "Weight", "Seconds", "Fault"];
  return (
    <Box
      component="form"
      onKeyDown={keys}
      onSubmit={(e) => e.preventDefault()}
      sx={{ display: "grid", gap: 2, maxWidth: 980 }}
    >
      <Box>
        <Typography variant="h1">{it.data.name}, ridden already</Typography>
        <Typography sx={{ color: inkSoft }}>
          One line for each set. Enter starts the next, Ctrl+Enter saves. Weight and seconds are those of a
          typical rep; a rung that is counted otherwise asks for its own numbers.
        </Typography>
      </Box>
      <Box sx={{ display: "grid", gridTemplateColumns: "190px 1fr", gap: 2, maxWidth: 760 }}>
        <Labelled text="Ridden on" wrong={refused?.field("date")}>
          <Box
            component="input"
            type="date"
            value={date}
            max={me.today}
            autoFocus
            onChange={(e) => setDate(e.target.value)}
            sx={input}
          />
        </Labelled>
        <Labelled text="Note for tomorrow" wrong={refused?.field("note")}>
          <Box component="input" value={note} onChange={(e) => setNote(e.target.value)} sx={input} />
        </Labelled>
      </Box>
      <WhichRideFields which={which} refused={refused} />
      <Box sx={{ overflowX: "auto", background: paper, border: `1px solid ${rule}`, p: 1.5 }}>
        <Box
          component="table"
          sx={{
            width: "100%",
            minWidth: 860,
            borderSpacing: "6px",
            borderCollapse: "separate",
            "& th": { textAlign: "left", fontWeight: 650, color: inkSoft },
          }}
        >
          <thead>
            <tr>
              {headings.map((h) => (
                <th key={h} scope="col">
                  {h}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {shown.map((line, n) => {
              const step = steps.find((s) => s.id === line.step);
              const wrong = wrongIn(line);
              const kind = measureOf(line, book.data);
              const count = (name: "gave" | "tried" | "none") => (
                <td>
                  <Box
                    component="input"
                    aria-label={`${name}, set ${n + 1}`}
                    inputMode="numeric"
                    value={line[name]}
                    onChange={(e) => change(n, { [name]: e.target.value.replace(/\D/g, "").slice(0, 3) })}
                    sx={{ ...input, width: 64 }}
                  />
                </td>
              );
              return [
                <tr key={line.id}>
                  <td>
                    <Box
                      component="select"
                      aria-label={`Rung and gait, set ${n + 1}`}
                      value={line.step}
                      onChange={(e) => pickStep(n, e.target.value)}
                      sx={{ ...input, minWidth: 210 }}
                    >
                      {steps.map((s) => (
                        <option key={s.id} value={s.id}>
                          {rungs.find((r) => r.id === s.rung)?.id} {s.name}
                        </option>
                      ))}
                    </Box>
                  </td>
                  <td>
                    <Box
                      component="select"
                      aria-label={`Side, set ${n + 1}`}
                      value={line.side}
                      onChange={(e) => change(n, { side: e.target.value as Line["side"] })}
                      sx={input}
                    >
                      {step?.sides.map((s) => (
                        <option key={s} value={s}>
                          {sideName[s]}
                        </option>
                      ))}
                    </Box>
                  </td>
                  {kind === "reps" ? (
                    <>
                      {count("gave")}
                      {count("tried")}
                      {count("none")}
                      <td>
                        <Box
                          component="select"
                          aria-label={`Weight, set ${n + 1}`}
                          value={line.weight}
                          onChange={(e) => change(n, { weight: e.target.value as Line["weight"] })}
                          sx={{ ...input, minWidth: 104 }}
                        >
                          {weights.map((w) => (
                            <option key={w.weight} value={w.weight}>
                              {w.weight}
                            </option>
                          ))}
                        </Box>
                      </td>
                      <td>
                        <Box
                          component="input"
                          aria-label={`Seconds, set ${n + 1}`}
                          inputMode="decimal"
                          value={line.seconds}
                          onChange={(e) => change(n, { seconds: e.target.value })}
                          sx={{ ...input, width: 80 }}
                        />
                      </td>
                    </>
                  ) : (
                    <td colSpan={5}>
                      <CountFields
                        kind={kind}
                        draft={line.count}
                        onChange={(count) => change(n, { count })}
                        of={`set ${n + 1}`}
                      />
                    </td>
                  )}
                  <td>
                    <Box
                      component="select"
                      aria-label={`Fault, set ${n + 1}`}
                      value={line.fault}
                      onChange={(e) => change(n, { fault: e.target.value })}
                      sx={{ ...input, minWidth: 110 }}
                    >
                      <option value="">none</option>
                      {rungs
                        .find((r) => r.id === step?.rung)
                        ?.faults.map((tag) => (
                          <option key={tag} value={tag}>
                            {book.data.faults.find((f) => f.tag === tag)?.name ?? tag}
                          </option>
                        ))}
                    </Box>
                  </td>
                </tr>,
                ...wrong.slice(0, 2).map((e) => (
                  <tr key={line.id + e.field}>
                    <td colSpan={8} style={{ color: oxblood, fontWeight: 600 }}>
                      {e.detail}
                    </td>
                  </tr>
                )),
              ];
            })}
          </tbody>
        </Box>
      </Box>
      {refused?.field("sets") && (
        <Typography role="alert" sx={{ color: oxblood, fontWeight: 600 }}>
          {refused.field("sets")}
        </Typography>
      )}
      <AlsoToldFields
        horse={horseId}
        told={also}
        signs={book.data.signs}
        wrong={refused?.field("gear") ?? refused?.field("minutes")}
      />
      {!refused?.problem.errors?.length && <FormTrouble error={save.error} />}
      <Box sx={{ display: "flex", gap: 1.5 }}>
        <Button
          variant="contained"
          size="large"
          onClick={submit}
          disabled={save.isPending || which.fills === null}
        >
          Save the ride
        </Button>
        <Button variant="outlined" onClick={another}>
          Another set
        </Button>
        <Button component={Link} to={`/horses/${horseId}`}>
          Cancel
        </Button>
      </Box>
    </Box>
  );
}

/** Who rode where, and the planned ride that this was: asked only where more than one was planned. */
function WhichRideFields({ which, refused }: { which: WhichRide; refused: Refused | null }) {
  const wheres = useWheres(which.at);
  const planned = (ride: WhichRide["planned"][number]) =>
    `planned${ride.starts_at ? ` for ${ride.starts_at.slice(0, 5)}` : ""} with ${ride.rider_name}`;
  return (
    <Box sx={{ display: "grid", gridTemplateColumns: { xs: "1fr 1fr", sm: "1fr 1fr 1.8fr" }, gap: 2 }}>
      <Labelled text="Rider" wrong={refused?.field("rider_id")}>
        <Box
          component="select"
          value={which.rider}
          onChange={(e) => which.choose({ rider: e.target.value })}
          sx={input}
        >
          {which.riders.map((r) => (
            <option key={r.id} value={r.id}>
              {r.name}
            </option>
          ))}
        </Box>
      </Labelled>
      <Labelled text="Place" wrong={refused?.field("ground_id") ?? refused?.field("place")}>
        <Box
          component="select"
          value={whereKey(which.at)}
          onChange={(e) => which.choose({ at: wheres.find((w) => w.key === e.target.value)?.at })}
          sx={input}
        >
          {wheres.map((w) => (
            <option key={w.key} value={w.key}>
              {w.name}
            </option>
          ))}
        </Box>
      </Labelled>
      {which.planned.length > 0 && (
        <Labelled
          text="This was"
          wrong={which.fills === null ? "More than one ride was planned: choose which it was" : undefined}
        >
          <Box
            component="select"
            value={which.fills ?? ""}
            onChange={(e) => which.choose({ fills: e.target.value })}
            sx={input}
          >
            {which.fills === null && <option value="">which ride?</option>}
            {which.planned.map((ride) => (
              <option key={ride.id} value={ride.id}>
                the ride {planned(ride)}
              </option>
            ))}
            <option value={OWN}>a ride of its own</option>
          </Box>
        </Labelled>
      )}
    </Box>
  );
}

function Labelled(props: { text: string; wrong?: string; children: React.ReactNode }) {
  return (
    <Box component="label" sx={{ display: "block", fontWeight: 650 }}>
      {props.text}
      {props.children}
      {props.wrong && (
        <Box component="span" role="alert" sx={{ color: oxblood, display: "block" }}>
          {props.wrong}
        </Box>
      )}
    </Box>
  );
}
