import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, type Schemas } from "../../api/client";
import { numbers } from "../../parts/numbers";
import { postureName, traitName } from "../../parts/words";
import { bind, FormDialog, Pick } from "./form";
import { newId } from "../../parts/ids";

/** Adds or changes a horse. */
export function HorseForm({
  horse,
  people,
  onClose,
}: {
  horse: Schemas["HorseOut"] | null;
  people: Schemas["PersonOut"][];
  onClose: () => void;
}) {
  const client = useQueryClient();
  const [id] = useState(() => horse?.id ?? newId());
  const [form, setForm] = useState({
    name: horse?.name ?? "",
    foaled: horse?.foaled ? String(horse.foaled) : "",
    sex: horse?.sex ?? "",
    owner_id: horse?.owner_id ?? "",
    usual_rider_id: horse?.usual_rider_id ?? "",
    posture: horse?.posture ?? "",
    note: horse?.note ?? "",
  });
  const [traits, setTraits] = useState(horse?.traits ?? []);
  const save = useMutation({
    mutationFn: async (archived: boolean) =>
      ask(
        api.PUT("/api/horses/{id}", {
          params: { path: { id } },
          body: {
            version: horse?.version ?? null,
            name: form.name,
            ...numbers({ foaled: form.foaled }),
            sex: (form.sex || null) as Schemas["Sex"] | null,
            owner_id: form.owner_id || null,
            usual_rider_id: form.usual_rider_id || null,
            posture: (form.posture || null) as Schemas["Posture"] | null,
            traits,
            note: form.note,
            archived,
          },
        }),
      ),
    onSuccess: () => {
      void client.invalidateQueries();
      onClose();
    },
  });
  const field = bind(form, setForm, save.error);
  const riders = people.filter((p) => p.role !== "owner").map((p): [string, string] => [p.id, p.name]);
  return (
    <FormDialog
      title={horse ? `Change ${horse.name}` : "Add a horse"}
      error={save.error}
      busy={save.isPending}
      onSave={() => save.mutate(horse?.archived ?? false)}
      onClose={onClose}
      more={
        horse && (
          <Button variant="outlined" onClick={() => save.mutate(!horse.archived)}>
            {horse.archived ? "Restore" : "Archive"}
          </Button>
        )
      }
    >
      <TextField {...field("name", "Name")} autoFocus />
      <TextField {...field("foaled", "Year foaled")} slotProps={{ htmlInput: { inputMode: "numeric" } }} />
      <Pick
        {...field("sex", "Sex")}
        none="not noted"
        options={[
          ["mare", "Mare"],
          ["gelding", "Gelding"],
          ["stallion", "Stallion"],
        ]}
      />
      <Pick {...field("owner_id", "Owner")} none="nobody noted" options={people.map((p) => [p.id, p.name])} />
      <Pick {...field("usual_rider_id", "Usual rider")} none="nobody yet" options={riders} />
      <Pick {...field("posture", "Posture")} none="the barn's" options={Object.entries(postureName)} />
      <TraitPicker picked={traits} onPick={setTraits} />
      <TextField {...field("note", "Note")} multiline minRows={2} />
    </FormDialog>
  );
}

/** What lasts about a horse, each on or off. */
function TraitPicker(props: { picked: Schemas["Trait"][]; onPick: (picked: Schemas["Trait"][]) => void }) {
  const { picked, onPick } = props;
  const all = Object.keys(traitName) as Schemas["Trait"][];
  const toggle = (trait: Schemas["Trait"]) =>
    onPick(picked.includes(trait) ? picked.filter((t) => t !== trait) : [...picked, trait]);
  return (
    <Box component="fieldset" sx={{ border: 0, p: 0, m: 0 }}>
      <Typography component="legend" sx={{ fontWeight: 650, mb: 0.5 }}>
        What lasts about it
      </Typography>
      <Box sx={{ display: "flex", flexWrap: "wrap", gap: 0.75 }}>
        {all.map((trait) => (
          <Button
            key={trait}
            size="small"
            variant={picked.includes(trait) ? "contained" : "outlined"}
            aria-pressed={picked.includes(trait)}
            onClick={() => toggle(trait)}
            sx={{ minHeight: 40 }}
          >
            {traitName[trait]}
          </Button>
        ))}
      </Box>
    </Box>
  );
}
