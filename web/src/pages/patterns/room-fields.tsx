import Box from "@mui/material/Box";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { onTape, typedLength } from "../../parts/lengths";

const fields: [keyof Schemas["Room"], string][] = [
  ["beside", "Beside 1 and 2"],
  ["behind", "Behind 3"],
  ["stop", "To stop"],
];

/** How much room the fit leaves to the fences. */
export function RoomFields(props: {
  room: Schemas["Room"];
  units: Schemas["Units"];
  onType: (room: Schemas["Room"]) => void;
}) {
  const [typed, setTyped] = useState<Partial<Record<keyof Schemas["Room"], string>>>({});
  return (
    <Box className="no-print" sx={{ display: "flex", gap: 1 }}>
      {fields.map(([key, label]) => {
        const text = typed[key];
        return (
          <TextField
            key={key}
            label={label}
            value={text ?? onTape(props.units, props.room[key])}
            error={text !== undefined && typedLength(props.units, text) === null}
            onChange={(e) => {
              setTyped({ ...typed, [key]: e.target.value });
              const metres = typedLength(props.units, e.target.value);
              if (metres !== null && metres >= 0) props.onType({ ...props.room, [key]: metres });
            }}
            onBlur={() => setTyped({ ...typed, [key]: undefined })}
          />
        );
      })}
    </Box>
  );
}
