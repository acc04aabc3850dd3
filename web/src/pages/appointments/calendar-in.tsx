import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, type Schemas } from "../../api/client";
import { OpenFile } from "../../parts/open-file";
import { FormTrouble } from "../../parts/states";
import { day } from "../../parts/words";
import { ink, inkSoft, marigold, oxblood, paper, rule, sageDark } from "../../theme/tokens";
import { appointmentsChanged } from "./changed";
import { kindName } from "./kinds";
import { inWords } from "./repeats";

type Line = Schemas["ImportLine"];

const fate: Record<Schemas["Fate"], { says: string; edge: string }> = {
  new: { says: "Comes in", edge: sageDark },
  known: { says: "In already", edge: rule },
  nobody: { says: "Takes nobody", edge: marigold },
  refused: { says: "Cannot be taken", edge: oxblood },
};

/** Reads an .ics file in: first what would happen, line by line, then all of it or nothing. */
export function CalendarIn() {
  const client = useQueryClient();
  const [text, setText] = useState<string | null>(null);
  const bring = useMutation({
    mutationFn: (sent: { text: string; dry_run: boolean }) =>
      ask(api.POST("/api/appointments/import", { body: sent })),
    onSuccess: (_, sent) => {
      if (sent.dry_run) return;
      setText(null);
      appointmentsChanged(client);
    },
  });
  const read = async (chosen: File) => {
    const whole = await chosen.text();
    setText(whole);
    bring.mutate({ text: whole, dry_run: true });
  };
  const done = bring.data;
  return (
    <Box sx={{ display: "contents" }}>
      <OpenFile name="Import a calendar" accept="text/calendar,.ics" onOpen={(file) => void read(file)} />
      <Box sx={{ flexBasis: "100%" }}>
        <FormTrouble error={bring.error} />
        {text === null && done && (
          <Typography role="status" sx={{ color: sageDark, fontWeight: 600 }}>
            {done.added === 0 ? "Nothing new to import." : `${done.added} imported.`}
          </Typography>
        )}
        {text !== null && done && (
          <Box
            component="section"
            aria-label="What would come in"
            sx={{ background: paper, border: `1.5px solid ${ink}`, p: 2, my: 1, maxWidth: 820 }}
          >
            <Typography variant="h2">
              {done.added} of {done.lines.length} would come in
            </Typography>
            <Box
              component="ol"
              tabIndex={0}
              aria-label="Entry by entry"
              sx={{ listStyle: "none", m: 0, p: 0, my: 1, maxHeight: 340, overflow: "auto" }}
            >
              {done.lines.map((line, n) => (
                <Entry key={n} line={line} />
              ))}
            </Box>
            <Box sx={{ display: "flex", gap: 1.5 }}>
              {done.added > 0 && (
                <Button
                  variant="contained"
                  disabled={bring.isPending}
                  onClick={() => bring.mutate({ text, dry_run: false })}
                >
                  Take them in
                </Button>
              )}
              <Button onClick={() => (setText(null), bring.reset())}>Cancel</Button>
            </Box>
          </Box>
        )}
      </Box>
    </Box>
  );
}

function Entry({ line }: { line: Line }) {
  const { says, edge } = fate[line.fate];
  const who = [...line.horses, ...line.people].join(", ");
  return (
    <Box component="li" sx={{ borderLeft: `5px solid ${edge}`, pl: 1.25, py: 0.5, mb: 0.5 }}>
      <b>{says}</b>: {line.title || "without a name"}
      {line.kind && ` (${kindName[line.kind].toLowerCase()})`}
      {line.day && (
        <Typography sx={{ fontSize: "0.95rem" }}>
          {day(line.day)}
          {line.days > 1
            ? `, ${line.days} days`
            : line.from !== "00:00"
              ? `, ${line.from} to ${line.to}`
              : ""}
          {line.rule && `, ${inWords(line.rule)}`}
          {who && `: ${who}`}
        </Typography>
      )}
      {line.says.map((said) => (
        <Typography key={said} sx={{ color: inkSoft, fontSize: "0.92rem" }}>
          {said}
        </Typography>
      ))}
    </Box>
  );
}
