import Box from "@mui/material/Box";
import Dialog from "@mui/material/Dialog";
import DialogContent from "@mui/material/DialogContent";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { statusWord } from "../../parts/mark";
import { ink, inkSoft, rule } from "../../theme/tokens";

/** Every rung to search by name, id or ladder, in the order in which they are looked for; what the horse was never asked is marked. */
export function RungFinder(props: {
  groups: [string, Schemas["RungOut"][]][];
  statusOf: (rung: string) => Schemas["Status"];
  onPick: (rung: string) => void;
  onClose: () => void;
}) {
  const [text, setText] = useState("");
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  const fits = (group: string, r: Schemas["RungOut"]) =>
    words.every((w) => `${r.id} ${r.name} ${group}`.toLowerCase().includes(w));
  const groups = props.groups
    .map(([name, rungs]): [string, Schemas["RungOut"][]] => [name, rungs.filter((r) => fits(name, r))])
    .filter(([, rungs]) => rungs.length > 0);
  const first = groups[0]?.[1][0];
  return (
    <Dialog open fullWidth maxWidth="sm" onClose={props.onClose} aria-labelledby="find-title">
      <DialogContent sx={{ p: 1.5 }}>
        <Typography variant="h2" id="find-title" sx={{ mb: 1.5 }}>
          Find a rung
        </Typography>
        <TextField
          label="Name, id or ladder"
          value={text}
          autoFocus
          fullWidth
          onChange={(e) => setText(e.target.value)}
          onKeyDown={(e) => {
            if (e.key === "Enter" && first) props.onPick(first.id);
          }}
        />
        {groups.length === 0 && <Box sx={{ mt: 2, color: inkSoft }}>No rung is called that.</Box>}
        {groups.map(([name, rungs]) => (
          <Box key={name} role="group" aria-label={name} sx={{ mt: 1.5 }}>
            <Box sx={{ fontWeight: 700, borderBottom: `1px solid ${rule}` }}>{name}</Box>
            {rungs.map((r) => {
              const status = props.statusOf(r.id);
              return (
                <Box
                  key={r.id}
                  component="button"
                  type="button"
                  onClick={() => props.onPick(r.id)}
                  sx={{
                    font: "inherit",
                    width: "100%",
                    minHeight: 52,
                    display: "flex",
                    justifyContent: "space-between",
                    alignItems: "center",
                    gap: 1,
                    px: 0.5,
                    border: 0,
                    borderBottom: `1px solid ${rule}`,
                    background: "none",
                    color: ink,
                    textAlign: "left",
                    cursor: "pointer",
                  }}
                >
                  <span>
                    {r.name}{" "}
                    <Box component="span" sx={{ color: inkSoft }}>
                      {r.id}
                    </Box>
                  </span>
                  <Box component="span" sx={{ color: inkSoft, whiteSpace: "nowrap" }}>
                    {status === "untried" ? "never taught" : statusWord(status).toLowerCase()}
                  </Box>
                </Box>
              );
            })}
          </Box>
        ))}
      </DialogContent>
    </Dialog>
  );
}
