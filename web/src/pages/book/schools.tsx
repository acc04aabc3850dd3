import Box from "@mui/material/Box";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { api, ask, type Schemas } from "../../api/client";
import { curriculumChanged } from "../../api/queries";
import { FormTrouble } from "../../parts/states";
import { ink, inkSoft } from "../../theme/tokens";
import { newId } from "../../parts/ids";

/** Where the trade disagrees: what holds here. */
export function Schools(props: { book: Schemas["CurriculumOut"]; horse: string | null; mayChange: boolean }) {
  const { book, horse, mayChange } = props;
  const client = useQueryClient();
  const pick = useMutation({
    mutationFn: (to: { school: string; choice: string }) =>
      ask(
        api.PUT("/api/curriculum/changes/{id}", {
          params: { path: { id: newId() } },
          body: { horse_id: horse, change: { kind: "school", ...to } },
        }),
      ),
    onSuccess: () => curriculumChanged(client),
  });
  return (
    <Box component="section" aria-labelledby="schools">
      <Typography variant="h2" id="schools" sx={{ borderBottom: `2px solid ${ink}`, pb: 0.5 }}>
        Where the trade disagrees
      </Typography>
      <FormTrouble error={pick.error} />
      <Box
        sx={{
          display: "grid",
          gap: 2,
          mt: 2,
          gridTemplateColumns: { xs: "1fr", sm: "1fr 1fr", lg: "repeat(4, 1fr)" },
        }}
      >
        {book.schools.map((s) => (
          <Box key={s.id}>
            <TextField
              select
              label={s.question}
              value={s.picked}
              disabled={!mayChange || pick.isPending}
              onChange={(e) => pick.mutate({ school: s.id, choice: e.target.value })}
            >
              {s.choices.map((c) => (
                <MenuItem key={c.id} value={c.id}>
                  {c.name}
                </MenuItem>
              ))}
            </TextField>
            <Typography sx={{ color: inkSoft, fontSize: "0.92rem", mt: 0.5 }}>
              {s.choices.find((c) => c.id === s.picked)?.says}
            </Typography>
          </Box>
        ))}
      </Box>
    </Box>
  );
}
