import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, type Schemas } from "../../api/client";
import { newId } from "../../parts/ids";
import { lengthIn, metresOf, unitOfLength } from "../../parts/lengths";
import { useMe } from "../../parts/me";
import { numbers } from "../../parts/numbers";
import { placeName } from "../../parts/words";
import { bind, FormDialog, Pick } from "./form";

const surfaceName: Record<Schemas["Surface"], string> = {
  sand: "Sand",
  dirt: "Dirt",
  grass: "Grass",
  hard: "Hard",
};

/** A ground in few words: its surface and its size. */
export function groundFacts(g: Schemas["GroundOut"], units: Schemas["Units"]) {
  const side = (m: number) => Math.round(lengthIn(units, m));
  const size = g.length && g.width ? `${side(g.length)} × ${side(g.width)} ${unitOfLength(units)}` : "–";
  return { kind: placeName[g.place], surface: surfaceName[g.surface], size };
}

/** Adds or changes one of the barn's own places to ride. */
export function GroundForm({
  ground,
  onClose,
}: {
  ground: Schemas["GroundOut"] | null;
  onClose: () => void;
}) {
  const client = useQueryClient();
  const { units } = useMe().barn;
  const [id] = useState(() => ground?.id ?? newId());
  const shown = (m?: number | null) => (m ? String(Math.round(lengthIn(units, m) * 10) / 10) : "");
  const [form, setForm] = useState({
    name: ground?.name ?? "",
    place: ground?.place ?? "arena",
    surface: ground?.surface ?? "sand",
    length: shown(ground?.length),
    width: shown(ground?.width),
  });
  const save = useMutation({
    mutationFn: async (archived: boolean) => {
      const typed = numbers({ length: form.length, width: form.width });
      // What was not changed goes back as it was, and not as it was rounded to be shown.
      const side = (name: "length" | "width") =>
        form[name] === shown(ground?.[name]) ? ground?.[name] : metresOf(units, typed[name]);
      return ask(
        api.PUT("/api/grounds/{id}", {
          params: { path: { id } },
          body: {
            version: ground?.version ?? null,
            name: form.name,
            place: form.place as Schemas["Place"],
            surface: form.surface as Schemas["Surface"],
            length: side("length") ?? null,
            width: side("width") ?? null,
            archived,
          },
        }),
      );
    },
    onSuccess: () => {
      void client.invalidateQueries();
      onClose();
    },
  });
  const field = bind(form, setForm, save.error);
  const number = { htmlInput: { inputMode: "decimal" as const } };
  return (
    <FormDialog
      title={ground ? `Change ${ground.name}` : "Add a place to ride"}
      error={save.error}
      busy={save.isPending}
      onSave={() => save.mutate(false)}
      onClose={onClose}
      more={
        ground && (
          <Button variant="outlined" onClick={() => save.mutate(true)}>
            Archive
          </Button>
        )
      }
    >
      <TextField {...field("name", "Name")} autoFocus />
      <Pick {...field("place", "Kind")} options={Object.entries(placeName)} />
      <Pick {...field("surface", "Surface")} options={Object.entries(surfaceName)} />
      <TextField {...field("length", `Length, ${unitOfLength(units)}`)} slotProps={number} />
      <TextField {...field("width", `Width, ${unitOfLength(units)}`)} slotProps={number} />
    </FormDialog>
  );
}
