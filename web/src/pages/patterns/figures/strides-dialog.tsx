import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, Refused, type Schemas } from "../../../api/client";
import { stridesOf } from "../../../api/queries";
import { FOOT, onTape } from "../../../parts/lengths";
import { FormDialog } from "../../barn/form";

const gaits = ["walk", "jog", "lope"] as const;
type Gaits = Record<(typeof gaits)[number], string>;

/** How far apart the cones stand, metres: 60 ft or 18 m. */
const apart = (units: Schemas["Units"]) => (units === "metric" ? 18 : 60 * FOOT);

/** A horse's strides: counted between two cones, gait by gait. */
export function StridesDialog(props: {
  horse: { id: string; name: string };
  units: Schemas["Units"];
  onClose: () => void;
}) {
  const { horse, units } = props;
  const client = useQueryClient();
  const kept = useQuery(stridesOf(horse.id)).data;
  const [typed, setTyped] = useState<Partial<Gaits>>({});
  const between = apart(units);
  const counted = (gait: keyof Gaits) => {
    const stride = kept?.[gait];
    return typed[gait] ?? (stride ? String(Math.round((between / stride) * 10) / 10) : "");
  };
  const stride = (gait: keyof Gaits) => {
    const n = Number(counted(gait).replace(",", "."));
    return counted(gait).trim() === "" ? null : between / n;
  };
  const save = useMutation({
    mutationFn: () =>
      ask(
        api.PUT("/api/horses/{id}/strides", {
          params: { path: { id: horse.id } },
          body: {
            walk: stride("walk"),
            jog: stride("jog"),
            lope: stride("lope"),
            version: kept?.version ?? 0,
          },
        }),
      ),
    onSuccess: async () => {
      await client.invalidateQueries({ queryKey: stridesOf(horse.id).queryKey });
      await client.invalidateQueries({ queryKey: ["figure"] });
      props.onClose();
    },
  });
  const refused = save.error instanceof Refused ? save.error : null;
  return (
    <FormDialog
      title={`The strides of ${horse.name}`}
      error={save.error}
      busy={save.isPending || !kept}
      onSave={() => save.mutate()}
      onClose={props.onClose}
    >
      <Typography>
        Put two cones {onTape(units, between)} apart, ride from one to the other and count the strides. Left
        empty, an ordinary horse's are taken.
      </Typography>
      {gaits.map((gait, n) => {
        const own = stride(gait);
        const ordinary = kept?.ordinary[n];
        return (
          <TextField
            key={gait}
            label={`Strides at the ${gait}`}
            value={counted(gait)}
            onChange={(e) => setTyped({ ...typed, [gait]: e.target.value })}
            error={!!refused?.field(gait)}
            helperText={
              refused?.field(gait) ??
              (own && Number.isFinite(own)
                ? `A stride of ${onTape(units, own)}`
                : ordinary &&
                  `Ordinary: ${onTape(units, ordinary)}, ${(between / ordinary).toFixed(1)} strides`)
            }
            slotProps={{ htmlInput: { inputMode: "decimal" } }}
          />
        );
      })}
    </FormDialog>
  );
}
