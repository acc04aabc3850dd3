import TextField from "@mui/material/TextField";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, type Schemas } from "../../api/client";
import { curriculumChanged } from "../../api/queries";
import { bind, FormDialog, Pick } from "../barn/form";
import { newId } from "../../parts/ids";

const list = (text: string) =>
  text
    .split(/[,;\n]/)
    .map((t) => t.trim())
    .filter(Boolean);

/** What working it takes, where it is not as for the rest of its ladder. */
function workNeeds(form: { worked: string; between: string; where: string }) {
  return {
    subject: form.worked === "cattle" ? "cattle" : "other",
    cattle: form.worked === "cattle" ? 1 : 0,
    flag: form.worked === "flag",
    days_between: Number(form.between),
    places: form.where.split(" "),
  };
}

/** A rung of the barn's own, on a ladder that is there or on a new one. */
export function OwnRungForm({ book, onClose }: { book: Schemas["CurriculumOut"]; onClose: () => void }) {
  const client = useQueryClient();
  const [ids] = useState(() => [newId(), newId()] as const);
  const [form, setForm] = useState({
    ladder: "S",
    newLadder: "",
    id: "",
    name: "",
    needs: "",
    sides: "each",
    gaits: "walk",
    ask: "",
    answer: "",
    fault: "leans",
    caution: "",
    worked: "",
    between: "1",
    where: "arena",
  });
  const save = useMutation({
    mutationFn: async () => {
      const change = (id: string, body: Record<string, unknown>) =>
        ask(
          api.PUT("/api/curriculum/changes/{id}", {
            params: { path: { id } },
            body: { change: body },
          }),
        );
      const own = form.worked ? workNeeds(form) : undefined;
      if (form.newLadder.trim())
        await change(ids[0], {
          kind: "ladder",
          ladder: { letter: form.id.slice(0, 1), name: form.newLadder.trim(), work: own },
        });
      await change(ids[1], {
        kind: "rung",
        rung: {
          id: form.id.trim(),
          name: form.name.trim(),
          needs: list(form.needs),
          sides: form.sides,
          gaits: list(form.gaits),
          ask: list(form.ask),
          answer: list(form.answer),
          faults: [form.fault],
          cautions: [form.caution.trim() || "As your instructor and local rules say"],
          work: own,
        },
      });
    },
    onSuccess: () => {
      curriculumChanged(client);
      onClose();
    },
  });
  const field = bind(form, setForm, save.error);
  return (
    <FormDialog
      title="A rung of your own"
      error={save.error}
      whole
      busy={save.isPending}
      onSave={() => save.mutate()}
      onClose={onClose}
    >
      <TextField {...field("id", "Its id: the ladder's letter and a number, like S11")} />
      <TextField {...field("newLadder", "Name of a new ladder, if the letter is new")} />
      <TextField {...field("name", "Its name")} />
      <TextField {...field("needs", "Needs first: S5, T2, S6@jog")} />
      <Pick
        {...field("sides", "Sides")}
        options={[
          ["each", "left and right"],
          ["both", "both reins together"],
        ]}
      />
      <TextField {...field("gaits", "Gaits, slowest first: stand, walk, jog, lope, run")} />
      <TextField {...field("ask", "The ask, cue by cue: sit; leg; rein")} />
      <TextField {...field("answer", "The answer, one part or two")} />
      <Pick {...field("fault", "The fault it shows")} options={book.faults.map((f) => [f.tag, f.name])} />
      <TextField {...field("caution", "A caution in a few words")} />
      <Pick
        {...field("worked", "Worked on")}
        none="as the rest of its ladder"
        options={[
          ["alone", "the horse alone"],
          ["flag", "the flag"],
          ["cattle", "cattle"],
        ]}
      />
      {form.worked && (
        <>
          <Pick
            {...field("between", "How often")}
            options={[
              ["1", "any two days"],
              ["2", "every other day at the most"],
              ["3", "every third day at the most"],
              ["7", "once a week at the most"],
            ]}
          />
          <Pick
            {...field("where", "Where")}
            options={[
              ["arena", "the arena"],
              ["round-pen arena", "the round pen or the arena"],
              ["outside trail", "outside or on the trail"],
              ["round-pen arena outside trail", "anywhere"],
            ]}
          />
        </>
      )}
    </FormDialog>
  );
}
