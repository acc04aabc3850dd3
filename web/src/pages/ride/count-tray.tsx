import Box from "@mui/material/Box";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { CountFields } from "../../parts/count-fields";
import { countOf, draftOf, shortly } from "../../parts/counts";
import { sideName } from "../../parts/words";
import { faces, gloveTarget, white, type Face } from "../../theme/tokens";
import type { Counted } from "./counted";
import { Big } from "./big";
import { FaultRow, toggled } from "./fault-row";

/** Puts a count right: what was counted, its faults, or that it was none. */
export function CountTray(props: {
  of: Counted;
  rung: Schemas["RungOut"];
  all: Schemas["FaultOut"][];
  face: Face;
  onChange: (now: Counted) => void;
  onClose: () => void;
}) {
  const { of, face, onChange, onClose } = props;
  const look = faces[face];
  const [draft, setDraft] = useState(() => draftOf(of.count));
  const { kind } = of.count;
  const typed = countOf(kind, draft);
  const change = (to: Partial<Counted>) => onChange({ ...of, ...to, version: of.version + 1 });
  const save = () => {
    // Who asked for a share of rein is not typed here and stays.
    const asked = of.count.kind === "rein-share" ? { asked: of.count.asked } : {};
    if (typed) change({ count: { ...typed, ...asked } as typeof typed });
    onClose();
  };
  return (
    <Box role="group" aria-label="Put this count right" sx={{ display: "grid", gap: "6px" }}>
      <Box sx={{ display: "flex", alignItems: "center", gap: "6px", flexWrap: "wrap" }}>
        <Box component="b" sx={{ px: 0.75, py: 0.25, color: white, background: look[of.set.side] }}>
          {sideName[of.set.side]}
        </Box>
        <span>{shortly(of.count)}, put right</span>
        <Box sx={{ ml: "auto", display: "flex", gap: "6px" }}>
          <Big
            face={face}
            label="Take this count out"
            onClick={() => {
              change({ removed: true });
              onClose();
            }}
          >
            Take out
          </Big>
          <Big face={face} label="Cancel" onClick={onClose}>
            ✕
          </Big>
        </Box>
      </Box>
      <Box sx={{ display: "flex", alignItems: "center", gap: "6px", flexWrap: "wrap" }}>
        <CountFields kind={kind} draft={draft} onChange={setDraft} of="this count" height={gloveTarget} />
        <Big face={face} disabled={typed === null} onClick={save}>
          Save
        </Big>
      </Box>
      <FaultRow
        tags={props.rung.faults}
        all={props.all}
        face={face}
        on={of.faults}
        onToggle={(tag) => change({ faults: toggled(of.faults, tag) })}
      />
    </Box>
  );
}
