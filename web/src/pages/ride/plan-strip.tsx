import Box from "@mui/material/Box";
import { useEffect, useRef } from "react";
import type { Schemas } from "../../api/client";
import { faces, gloveTarget, type Face } from "../../theme/tokens";

const names: Record<Schemas["PartOut"]["purpose"], string> = {
  ground: "Ground",
  loosen: "Loosen",
  main: "Main",
  "set-ups": "Set up",
  air: "Air",
  close: "Close",
};

/** The planned ride as a strip of parts; a part with a step leads to it. */
export function PlanStrip(props: {
  plan: Schemas["PlanOut"] | undefined;
  current: string;
  done: (step: string) => number;
  face: Face;
  onPick: (step: string) => void;
  onOpen: () => void;
}) {
  const { plan, current } = props;
  const look = faces[props.face];
  const here = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    here.current?.scrollIntoView({ block: "nearest", inline: "center" });
  }, [current, plan]);
  if (!plan) return null;
  const box = {
    font: "inherit",
    minHeight: gloveTarget,
    minWidth: gloveTarget,
    px: 1.25,
    flex: "none",
    textAlign: "left",
    lineHeight: 1.15,
    border: `2px solid ${look.line}`,
    color: look.text,
    background: look.panel,
    cursor: "pointer",
  } as const;
  return (
    <Box
      component="nav"
      aria-label="Plan of the ride"
      sx={{ display: "flex", gap: "4px", overflowX: "auto", scrollbarWidth: "none", position: "relative" }}
    >
      <Box component="button" type="button" onClick={props.onOpen} sx={{ ...box, fontWeight: 700 }}>
        Plan
      </Box>
      {plan.parts
        .filter((p) => p.purpose !== "ground" && p.purpose !== "close")
        .map((p, n) => {
          const step = p.step;
          const at = step === current && p.purpose !== "air";
          const rode = step ? props.done(step) : 0;
          return (
            <Box
              key={n}
              ref={at ? here : undefined}
              component={step ? "button" : "div"}
              type={step ? "button" : undefined}
              aria-current={at ? "step" : undefined}
              onClick={step ? () => props.onPick(step) : undefined}
              sx={{
                ...box,
                cursor: step ? "pointer" : "default",
                display: "grid",
                alignContent: "center",
                maxWidth: 210,
                background: at ? look.text : p.purpose === "air" ? "transparent" : look.panel,
                color: at ? look.ground : look.text,
                borderStyle: p.purpose === "air" ? "dashed" : "solid",
              }}
            >
              <Box component="span" sx={{ fontSize: "0.82rem", opacity: 0.85 }}>
                {names[p.purpose]}
                {p.reps != null && ` ${rode}/${p.reps}`}
                {step?.includes("@") && `, ${step.split("@")[1] ?? ""}`}
                {p.left != null && p.left !== p.right && ` · L${p.left} R${p.right ?? 0}`}
              </Box>
              <Box
                component="span"
                sx={{ fontWeight: 650, whiteSpace: "nowrap", overflow: "hidden", textOverflow: "ellipsis" }}
              >
                {p.name?.replace(/ (standing|at the \w+)$/, "") ?? "Stand"}
              </Box>
            </Box>
          );
        })}
    </Box>
  );
}
