import Autocomplete from "@mui/material/Autocomplete";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, type Schemas } from "../../api/client";
import { claimsOf } from "../../api/queries";
import { newId } from "../../parts/ids";
import { useMe } from "../../parts/me";
import { FormTrouble } from "../../parts/states";
import { day } from "../../parts/words";
import { ink, inkSoft, oxblood, pine, rule } from "../../theme/tokens";

const stateWord = { claimed: "Claimed", proven: "Proven", disproved: "Not so" } as const;
const stateColour = { claimed: inkSoft, proven: pine, disproved: oxblood } as const;

/** What others say that the horse knows, with who said it, and what its rides here say to that. */
export function Claims({ horse, book }: { horse: string; book: Schemas["CurriculumOut"] }) {
  const me = useMe();
  const client = useQueryClient();
  const { data } = useQuery(claimsOf(horse));
  const [adding, setAdding] = useState(false);
  const changed = () => client.invalidateQueries({ queryKey: claimsOf(horse).queryKey });
  const takeBack = useMutation({
    mutationFn: (id: string) =>
      ask(api.DELETE("/api/horses/{horse}/claims/{id}", { params: { path: { horse, id } } })),
    onSuccess: changed,
  });
  const mayWrite = me.role !== "owner";
  if (!data || (data.items.length === 0 && !mayWrite)) return null;
  return (
    <Box component="section" aria-labelledby="claims">
      <Typography variant="h2" id="claims" sx={{ borderBottom: `2px solid ${ink}`, pb: 0.5 }}>
        What it is said to know
      </Typography>
      {data.items.length === 0 && (
        <Typography sx={{ color: inkSoft, my: 1 }}>
          Nobody has said anything yet. What an owner or an earlier trainer says counts a little, until it is
          shown.
        </Typography>
      )}
      <Box component="ul" aria-label="Claims" sx={{ listStyle: "none", p: 0, my: 1 }}>
        {data.items.map((c) => (
          <Box
            component="li"
            key={c.id}
            sx={{ display: "flex", gap: 1, alignItems: "center", borderBottom: `1px solid ${rule}`, py: 0.5 }}
          >
            <Box sx={{ flex: 1 }}>
              {c.name}
              <Box component="span" sx={{ display: "block", color: inkSoft, fontSize: "0.92rem" }}>
                {c.said_by}, {day(c.said_on)}; {c.says}
              </Box>
            </Box>
            <Box component="b" sx={{ color: stateColour[c.state] }}>
              {stateWord[c.state]}
            </Box>
            {mayWrite && (
              <Button size="small" aria-label={`Take back ${c.name}`} onClick={() => takeBack.mutate(c.id)}>
                Take back
              </Button>
            )}
          </Box>
        ))}
      </Box>
      <FormTrouble error={takeBack.error} />
      {mayWrite && !adding && (
        <Button variant="outlined" onClick={() => setAdding(true)}>
          Write down what is claimed
        </Button>
      )}
      {adding && (
        <ClaimForm
          horse={horse}
          book={book}
          onClose={() => {
            setAdding(false);
            void changed();
          }}
        />
      )}
    </Box>
  );
}

function ClaimForm(props: { horse: string; book: Schemas["CurriculumOut"]; onClose: () => void }) {
  const { horse, book } = props;
  const [saidBy, setSaidBy] = useState("");
  // A claim keeps its id from when its step was picked, so that sending twice keeps it once.
  const [claims, setClaims] = useState<{ id: string; step: Schemas["StepOut"] }[]>([]);
  const pick = (steps: Schemas["StepOut"][]) =>
    setClaims(steps.map((step) => claims.find((c) => c.step.id === step.id) ?? { id: newId(), step }));
  const save = useMutation({
    mutationFn: () =>
      ask(
        api.PUT("/api/horses/{id}/claims", {
          params: { path: { id: horse } },
          body: { said_by: saidBy, claims: claims.map((c) => ({ id: c.id, step: c.step.id })) },
        }),
      ),
    onSuccess: props.onClose,
  });
  return (
    <Box
      component="form"
      aria-label="What is claimed"
      onSubmit={(e) => {
        e.preventDefault();
        save.mutate();
      }}
      sx={{ display: "grid", gap: 1.5, mt: 1.5 }}
    >
      <TextField label="Who says so" value={saidBy} onChange={(e) => setSaidBy(e.target.value)} required />
      <Autocomplete
        multiple
        options={book.steps}
        value={claims.map((c) => c.step)}
        onChange={(_, picked) => pick(picked)}
        getOptionLabel={(s) => s.name}
        getOptionKey={(s) => s.id}
        isOptionEqualToValue={(a, b) => a.id === b.id}
        renderInput={(params) => <TextField {...params} label="What it knows" />}
      />
      <Box sx={{ display: "flex", gap: 1 }}>
        <Button type="submit" variant="contained" disabled={save.isPending || claims.length === 0}>
          Save
        </Button>
        <Button onClick={props.onClose}>Cancel</Button>
      </Box>
      <FormTrouble error={save.error} />
    </Box>
  );
}
