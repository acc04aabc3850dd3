import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useDeferredValue, useState } from "react";
import { Link } from "react-router";
import { api, ask, type Schemas } from "../../api/client";
import { horses } from "../../api/queries";
import { Panel } from "../../parts/panel";
import { useMe } from "../../parts/me";
import { OneOf } from "../../parts/one-of";
import { OpenFile } from "../../parts/open-file";
import { FormTrouble } from "../../parts/states";
import { day, many } from "../../parts/words";
import { ink, inkSoft, oxblood, paper, rule, sideColour, slab, white } from "../../theme/tokens";
import { Aliases } from "./aliases";
import { Marked } from "./marked";
import { replaced } from "./replaced";
import { newId } from "../../parts/ids";

type Form = Schemas["Form"];

const EXAMPLE = `Juniper: flex L 6/8 egg 1.5s, R 4/8 orange head-up · jog stop 5/7 lemon · licks "left first"
Biscuit 2026-01-05 (Round pen, walk 20 jog 10): R2 walk L 3 laps soft`;

/** Rides from the tack room: the trainer's shorthand or a sheet of rows, read as it is typed, stored all or nothing. */
export function Shorthand() {
  const me = useMe();
  const client = useQueryClient();
  const [form, setForm] = useState<Form>("shorthand");
  const [text, setText] = useState("");
  const [date, setDate] = useState(me.today);
  const [horse, setHorse] = useState("");
  const [id, setId] = useState(() => newId());
  const barn = useQuery(horses());
  const later = useDeferredValue(text);
  const body = (dry: boolean, of: string) => ({
    id,
    form,
    text: of,
    date,
    horse_id: horse || null,
    dry_run: dry,
  });
  const preview = useQuery({
    queryKey: ["shorthand", form, later, date, horse],
    queryFn: () => ask(api.POST("/api/shorthand", { body: body(true, later) })),
    enabled: later.trim() !== "",
    placeholderData: keepPreviousData,
  });
  const save = useMutation({
    mutationFn: (sent: string) => ask(api.POST("/api/shorthand", { body: body(false, sent) })),
    onSuccess: (_, sent) => {
      // What was typed meanwhile stays.
      setText((now) => (now === sent ? "" : now));
      setId(newId());
      void client.invalidateQueries();
    },
  });
  const read = later.trim() === "" ? undefined : preview.data;
  const sets = read?.rides.reduce((n, r) => n + r.sets.length, 0) ?? 0;
  const maySave = !save.isPending && sets > 0 && read?.diagnostics.length === 0;
  const open = (file: File) => {
    setForm(file.name.endsWith(".csv") ? "csv" : "shorthand");
    void file.text().then(setText);
  };
  const forms: [Form, string][] = [
    ["shorthand", "Shorthand"],
    ["csv", "Rows (CSV)"],
  ];
  return (
    <Box sx={{ display: "grid", gap: 2 }}>
      <Box>
        <Typography variant="h1">Log in shorthand</Typography>
        <Typography sx={{ color: inkSoft }}>
          Write rides as you would jot them down. Nothing is saved while a word is not understood.
        </Typography>
      </Box>
      <Box sx={{ display: "flex", gap: 1.5, flexWrap: "wrap", alignItems: "center" }}>
        <OneOf label="How it is written" of={forms} picked={form} onPick={setForm} />
        <TextField
          type="date"
          label="Ridden on"
          value={date}
          onChange={(e) => setDate(e.target.value)}
          sx={{ width: 170 }}
          slotProps={{ htmlInput: { max: me.today }, inputLabel: { shrink: true } }}
        />
        <TextField
          select
          label="Horse, where none is named"
          value={horse}
          onChange={(e) => setHorse(e.target.value)}
          sx={{ width: 240 }}
        >
          <MenuItem value="">Nobody</MenuItem>
          {barn.data?.items.map((h) => (
            <MenuItem key={h.id} value={h.id}>
              {h.name}
            </MenuItem>
          ))}
        </TextField>
        <OpenFile name="Choose a file" accept=".csv,.txt,text/csv,text/plain" onOpen={open} />
      </Box>
      <Box
        sx={{
          display: "grid",
          gap: 3,
          gridTemplateColumns: { xs: "minmax(0, 1fr)", lg: "minmax(0, 1fr) minmax(0, 1fr)" },
          alignItems: "start",
        }}
      >
        <Box sx={{ display: "grid", gap: 1.5 }}>
          <Box
            component="textarea"
            aria-label="The text"
            aria-describedby="shorthand-says"
            autoFocus
            spellCheck={false}
            value={text}
            placeholder={EXAMPLE}
            onChange={(e) => setText(e.target.value)}
            onKeyDown={(e) => {
              if (e.key === "Enter" && (e.ctrlKey || e.metaKey) && !save.isPending) save.mutate(text);
            }}
            sx={{
              fontFamily: "ui-monospace, monospace",
              fontSize: "1rem",
              lineHeight: 1.5,
              minHeight: 200,
              p: 1.5,
              border: `1.5px solid ${ink}`,
              background: white,
              resize: "vertical",
              width: "100%",
            }}
          />
          <Box sx={{ display: "flex", gap: 1.5, alignItems: "center", flexWrap: "wrap" }}>
            <Button variant="contained" size="large" onClick={() => save.mutate(text)} disabled={!maySave}>
              {sets > 0 ? `Save ${many(read?.rides.length ?? 0, "ride")}, ${many(sets, "set")}` : "Save"}
            </Button>
            {save.isSuccess && text === "" && (
              <span role="status">Saved: {many(save.data.rides.length, "ride")}.</span>
            )}
          </Box>
          <FormTrouble error={save.error ?? preview.error} />
          {read && <Marked text={later} read={read} />}
        </Box>
        <Box id="shorthand-says" sx={{ display: "grid", gap: 1.5 }}>
          <Troubles
            read={read}
            onTake={(line, from, to, word) => setText(replaced(text, line, from, to, word))}
          />
          {read?.rides.map((r, n) => (
            <ParsedRideOut key={n} ride={r} />
          ))}
          {!read && <How />}
          <Aliases />
        </Box>
      </Box>
    </Box>
  );
}

function Troubles(props: {
  read: Schemas["ShorthandResponse"] | undefined;
  onTake: (line: number, from: number, to: number, word: string) => void;
}) {
  const { read } = props;
  if (!read || read.diagnostics.length === 0) return null;
  return (
    <Box
      component="ul"
      aria-label="Not understood"
      sx={{ listStyle: "none", m: 0, p: 0, display: "grid", gap: 0.75 }}
    >
      {read.diagnostics.map((t, n) => (
        <Box
          component="li"
          key={n}
          sx={{ borderLeft: `6px solid ${oxblood}`, pl: 1.25, background: paper, py: 0.5 }}
        >
          <b>
            Line {t.line}, column {t.from}
          </b>
          : {t.says}.
          {t.nearest && (
            <Button size="small" onClick={() => props.onTake(t.line, t.from, t.to, t.nearest ?? "")}>
              Use “{t.nearest}”
            </Button>
          )}
        </Box>
      ))}
    </Box>
  );
}

function ParsedRideOut({ ride: r }: { ride: Schemas["ParsedRideOut"] }) {
  return (
    <Panel tight>
      <Box sx={{ fontFamily: slab, fontWeight: 650, fontSize: "1.1rem" }}>
        {r.horse_id ? (
          <Box component={Link} to={`/horses/${r.horse_id}`} sx={{ color: ink }}>
            {r.horse}
          </Box>
        ) : (
          "Whose?"
        )}
        <Box component="span" sx={{ fontFamily: "inherit", fontWeight: 400, color: inkSoft }}>
          , {day(r.date)}
        </Box>
      </Box>
      <Box component="ol" sx={{ m: 0, pl: 0, listStyle: "none" }}>
        {r.sets.map((s, n) => (
          <Box component="li" key={n} sx={{ borderLeft: `5px solid ${sideColour[s.side]}`, pl: 1, my: 0.5 }}>
            {s.says}
          </Box>
        ))}
      </Box>
      {r.told && <div>{r.told}.</div>}
      {r.fills && <div>Fills {r.fills}.</div>}
      {r.note && <div>Note: {r.note}</div>}
      {r.signs.length > 0 && <div>Signs: {r.signs.join(", ")}</div>}
    </Panel>
  );
}

function How() {
  return (
    <Box sx={{ borderLeft: `5px solid ${rule}`, pl: 1.5, "& code": { fontWeight: 650 } }}>
      <p style={{ marginTop: 0 }}>
        Begin a ride with a horse and a colon: <code>Juniper:</code> or <code>Juniper 2026-01-05:</code>
      </p>
      <p>
        A set is a rung, a side and a count: <code>flex L 6/8</code>. Behind it the weight, the seconds and
        the faults of the usual ask: <code>egg 1.5s head-up</code>. <code>6+1/8</code> is six whole and one
        tried, of eight.
      </p>
      <p>
        A comma goes on with the same rung: <code>, R 4/8</code>. A dot or a semicolon begins the next:{" "}
        <code>·</code> <code>;</code>. What stands in quotes is the note for tomorrow.
      </p>
      <p>
        Counted otherwise: <code>3 laps soft</code>, nose-ups over circles <code>1/4</code>,{" "}
        <code>looks&gt;two&gt;crosses</code>, <code>30% soft</code>.
      </p>
    </Box>
  );
}
