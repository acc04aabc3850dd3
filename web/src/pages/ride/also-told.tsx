import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { horseGear } from "../../api/queries";
import { ink, inkSoft, paper } from "../../theme/tokens";
import { minutes, type Gait } from "./minutes";
import { MinuteFields, SignPicker } from "./ride-facts";

/** What else a ride is told to have been: what it wore, its signs and its minutes. */
export type AlsoTold = {
  worn: string[];
  signs: string[];
  typed: Partial<Record<Gait, string>>;
  change: (told: Partial<Pick<AlsoTold, "worn" | "signs" | "typed">>) => void;
  /** As it is sent. */
  sent: () => Pick<Schemas["RideIn"], "gear" | "signs" | "minutes">;
};

/** Begins with what the horse wore last. */
export function useAlsoTold(horse: string): AlsoTold {
  const gear = useQuery(horseGear(horse)).data;
  const [told, setTold] = useState<Partial<Pick<AlsoTold, "worn" | "signs" | "typed">>>({});
  const worn = told.worn ?? gear?.last_worn ?? [];
  const signs = told.signs ?? [];
  const typed = told.typed ?? {};
  return {
    worn,
    signs,
    typed,
    change: (more) => setTold({ ...told, ...more }),
    sent: () => ({
      gear: gear ? worn : null,
      signs,
      minutes: Object.values(typed).some(Boolean) ? minutes((g) => typed[g] ?? "") : null,
    }),
  };
}

/** Asks for them: nothing has to be answered. */
export function AlsoToldFields(props: {
  horse: string;
  told: AlsoTold;
  signs: Schemas["CurriculumOut"]["signs"];
  wrong?: string;
}) {
  const { told } = props;
  const gear = useQuery(horseGear(props.horse)).data?.items.filter((g) => !g.archived) ?? [];
  const toggle = (id: string) =>
    told.change({ worn: told.worn.includes(id) ? told.worn.filter((w) => w !== id) : [...told.worn, id] });
  return (
    <Box sx={{ display: "grid", gap: 1.5 }}>
      <Typography variant="h2">What it wore, minutes, signs</Typography>
      {gear.length > 0 && (
        <Box role="group" aria-label="What it wore" sx={{ display: "flex", gap: 1, flexWrap: "wrap" }}>
          {gear.map((g) => {
            const on = told.worn.includes(g.id);
            return (
              <Box
                key={g.id}
                component="button"
                type="button"
                aria-pressed={on}
                onClick={() => toggle(g.id)}
                sx={{
                  font: "inherit",
                  fontWeight: 600,
                  minHeight: 44,
                  px: 1.5,
                  border: `1.5px solid ${ink}`,
                  background: on ? ink : "transparent",
                  color: on ? paper : ink,
                  cursor: "pointer",
                }}
              >
                {g.name}
              </Box>
            );
          })}
        </Box>
      )}
      <Box sx={{ maxWidth: 560 }}>
        <MinuteFields
          of={(g) => told.typed[g] ?? ""}
          onType={(g, text) => told.change({ typed: { ...told.typed, [g]: text } })}
        />
        <Typography sx={{ color: inkSoft, fontSize: "0.95rem" }}>
          Minutes at each gait; left empty, a usual ride is counted.
        </Typography>
      </Box>
      <SignPicker signs={props.signs} picked={told.signs} onPick={(signs) => told.change({ signs })} />
      {props.wrong && (
        <Typography role="alert" sx={{ fontWeight: 600 }}>
          {props.wrong}
        </Typography>
      )}
    </Box>
  );
}
