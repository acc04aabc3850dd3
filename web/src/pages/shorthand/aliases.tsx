import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, Refused } from "../../api/client";
import { aliases, curriculum } from "../../api/queries";
import { FormTrouble } from "../../parts/states";
import { ink, inkSoft, white } from "../../theme/tokens";

/** The barn's own words for rungs. */
export function Aliases() {
  const client = useQueryClient();
  const own = useQuery(aliases);
  const book = useQuery(curriculum);
  const [word, setWord] = useState("");
  const [picked, setPicked] = useState("");
  const rung = picked || (book.data?.rungs[0]?.id ?? "");
  const keep = useMutation({
    mutationFn: (body: { word: string; rung: string | null }) => ask(api.PUT("/api/aliases", { body })),
    onSuccess: (now) => {
      client.setQueryData(aliases.queryKey, now);
      void client.invalidateQueries({ queryKey: ["shorthand"] });
      setWord("");
    },
  });
  const wrong = keep.error instanceof Refused ? keep.error.field("word") : undefined;
  const name = (id: string | null | undefined) => book.data?.rungs.find((r) => r.id === id)?.name ?? id;
  return (
    <Box component="section" aria-labelledby="own-words">
      <Typography variant="h3" component="h2" id="own-words">
        Words of this barn
      </Typography>
      <Box component="ul" sx={{ listStyle: "none", m: 0, p: 0 }}>
        {own.data?.items.map((a) => (
          <li key={a.word}>
            <b>{a.word}</b> is {name(a.rung)}{" "}
            <Button size="small" onClick={() => keep.mutate({ word: a.word, rung: null })}>
              Forget
            </Button>
          </li>
        ))}
        {own.data?.items.length === 0 && <li style={{ color: inkSoft }}>None yet.</li>}
      </Box>
      <Box
        component="form"
        onSubmit={(e) => {
          e.preventDefault();
          keep.mutate({ word, rung });
        }}
        sx={{ display: "flex", gap: 1, flexWrap: "wrap", mt: 1 }}
      >
        <TextField
          label="A word"
          value={word}
          onChange={(e) => setWord(e.target.value)}
          error={!!wrong}
          helperText={wrong}
          sx={{ width: 160 }}
        />
        <Box
          component="select"
          aria-label="Its rung"
          value={rung}
          onChange={(e) => setPicked((e.target as HTMLSelectElement).value)}
          sx={{
            font: "inherit",
            minHeight: 40,
            border: `1.5px solid ${ink}`,
            background: white,
            px: 1,
            maxWidth: 260,
          }}
        >
          {book.data?.rungs.map((r) => (
            <option key={r.id} value={r.id}>
              {r.id} {r.name}
            </option>
          ))}
        </Box>
        <Button type="submit" variant="outlined" disabled={keep.isPending}>
          Add
        </Button>
      </Box>
      {!wrong && <FormTrouble error={keep.error} />}
    </Box>
  );
}
