import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, type Schemas } from "../../api/client";
import { curriculumChanged } from "../../api/queries";
import { OpenFile } from "../../parts/open-file";
import { FormTrouble } from "../../parts/states";
import { ink, inkSoft, rule } from "../../theme/tokens";
import { OwnRungForm } from "./own-rung-form";
import { newId } from "../../parts/ids";

/** Rungs of one's own, and the curriculum as a file: out, and in again after a look at what it would change. */
export function BookFile({ book }: { book: Schemas["CurriculumOut"] }) {
  const client = useQueryClient();
  const [adding, setAdding] = useState(false);
  const [file, setFile] = useState<Record<string, unknown> | null>(null);
  const [unreadable, setUnreadable] = useState<Error | null>(null);
  const [id, setId] = useState(() => newId());
  const bring = useMutation({
    mutationFn: (sent: { file: Record<string, unknown>; dry: boolean }) =>
      ask(api.POST("/api/curriculum/import", { body: { id, dry_run: sent.dry, file: sent.file } })),
    onSuccess: (done) => {
      if (!done.done) return;
      setFile(null);
      setId(newId());
      curriculumChanged(client);
    },
  });
  const read = async (chosen: File) => {
    setUnreadable(null);
    try {
      const parsed = JSON.parse(await chosen.text()) as Record<string, unknown>;
      setFile(parsed);
      bring.mutate({ file: parsed, dry: true });
    } catch {
      setUnreadable(new Error(`${chosen.name} is not a curriculum file: it is not JSON`));
    }
  };
  return (
    <Box component="section" aria-labelledby="own">
      <Typography variant="h2" id="own" sx={{ borderBottom: `2px solid ${ink}`, pb: 0.5 }}>
        Your own
      </Typography>
      <Box sx={{ display: "flex", gap: 1.5, flexWrap: "wrap", mt: 1.5 }}>
        <Button variant="outlined" onClick={() => setAdding(true)}>
          Add a rung
        </Button>
        <Button variant="outlined" component="a" href="/api/curriculum/file" download="curriculum.json">
          Save the Book as a file
        </Button>
        <OpenFile name="Read a file in" accept="application/json,.json" onOpen={(file) => void read(file)} />
      </Box>
      <FormTrouble error={unreadable ?? bring.error} />
      {file && bring.data && !bring.data.done && (
        <Box sx={{ border: `1.5px solid ${ink}`, p: 2, mt: 1.5, maxWidth: 640 }}>
          <b>
            {bring.data.lines.length === 0
              ? "This file makes no changes."
              : `This file makes ${bring.data.lines.length} changes, from today on:`}
          </b>
          <Box component="ul" sx={{ m: 0, my: 1, pl: 2.5, maxHeight: 220, overflow: "auto" }}>
            {bring.data.lines.map((l) => (
              <li key={l}>{l}</li>
            ))}
          </Box>
          <Box sx={{ display: "flex", gap: 1.5, borderTop: `1px solid ${rule}`, pt: 1.5 }}>
            {bring.data.lines.length > 0 && (
              <Button
                variant="contained"
                disabled={bring.isPending}
                onClick={() => bring.mutate({ file, dry: false })}
              >
                Make them
              </Button>
            )}
            <Button onClick={() => setFile(null)}>Cancel</Button>
          </Box>
        </Box>
      )}
      {bring.data?.done && !file && <Typography sx={{ color: inkSoft, mt: 1 }}>Imported.</Typography>}
      {adding && <OwnRungForm book={book} onClose={() => setAdding(false)} />}
    </Box>
  );
}
