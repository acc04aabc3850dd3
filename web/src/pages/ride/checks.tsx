import Box from "@mui/material/Box";
import TextField from "@mui/material/TextField";
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { plan as planQuery } from "../../api/queries";
import { put } from "../../offline/outbox";
import { IncidentNote } from "../../parts/incident-note";
import { useMe } from "../../parts/me";
import { sideName } from "../../parts/words";
import { answered } from "./answered";
import {
  bone,
  dustDark,
  ink,
  inkSoft,
  marigold,
  oxblood,
  paper,
  rule,
  sageDark,
  sideColour,
  slab,
} from "../../theme/tokens";

type Check = Schemas["CheckOut"];
type Side = Schemas["CheckIn"]["side"];
type Answer = Schemas["CheckAnswer"];

/** Before mounting: what applies to this horse today. What must be answered keeps the pads away until it is. */
export function Checks(props: {
  ride: Schemas["RideDetail"];
  plan: Schemas["PlanOut"];
  gear: Schemas["GearOut"][];
  onWear: (gear: string[]) => void;
  onMount: () => void;
}) {
  const { ride, plan } = props;
  const me = useMe();
  const client = useQueryClient();
  const answer = (check: Check, side: Side, given: Answer, words = "") => {
    put({ kind: "check", ride: ride.id, rep: check.id, body: { side, answer: given, words } });
    // The answer stands at once, with the network or without it; the server tells the same when it is asked.
    client.setQueryData(
      planQuery(ride.id).queryKey,
      (old) => old && answered(old, check.id, side, given, words, me.name),
    );
  };
  const waits = plan.checks.filter((c) => plan.waits_for.includes(c.id));
  const worn = new Set(plan.gear);
  return (
    <Box
      component="main"
      sx={{
        minHeight: "100dvh",
        background: bone,
        color: ink,
        p: { xs: 1.5, sm: 3 },
        maxWidth: 980,
        mx: "auto",
      }}
    >
      <Box sx={{ display: "flex", gap: 2, alignItems: "baseline", flexWrap: "wrap" }}>
        <Box component="h1" sx={{ fontFamily: slab, fontSize: "1.7rem", m: 0, flex: 1 }}>
          Before you get on {ride.horse_name}
        </Box>
        <Box component={Link} to="/" sx={{ color: ink, minHeight: 44 }}>
          Back to Today
        </Box>
      </Box>
      <IncidentNote horse={ride.horse_id} />
      {props.gear.length > 0 && (
        <Box
          role="group"
          aria-label="Ridden in"
          sx={{ display: "flex", gap: 0.75, flexWrap: "wrap", my: 1.5 }}
        >
          {props.gear
            .filter((g) => !g.archived)
            .map((g) => (
              <Press
                key={g.id}
                on={worn.has(g.id)}
                onClick={() =>
                  props.onWear(worn.has(g.id) ? plan.gear.filter((id) => id !== g.id) : [...plan.gear, g.id])
                }
              >
                {g.name}
              </Press>
            ))}
        </Box>
      )}
      <Box component="ul" aria-label="Checks" sx={{ listStyle: "none", m: 0, p: 0 }}>
        {plan.checks.map((check) => (
          <Line
            key={check.id}
            check={check}
            mayOverrule={me.role === "trainer"}
            answer={(side, given, words) => answer(check, side, given, words)}
          />
        ))}
      </Box>
      <Box
        sx={{
          position: "sticky",
          bottom: 0,
          background: bone,
          py: 1.5,
          mt: 1,
          borderTop: `2px solid ${ink}`,
        }}
      >
        {waits.length > 0 && (
          <Box role="status" sx={{ color: oxblood, fontWeight: 650, mb: 1 }}>
            Answer first: {waits.map((c) => c.why.toLowerCase()).join("; ")}.
          </Box>
        )}
        <Box
          component="button"
          type="button"
          disabled={waits.length > 0}
          onClick={props.onMount}
          sx={{
            font: "inherit",
            fontWeight: 700,
            fontSize: "1.2rem",
            minHeight: 64,
            width: "100%",
            border: 0,
            background: ink,
            color: bone,
            cursor: "pointer",
            "&:disabled": { background: dustDark, cursor: "default" },
          }}
        >
          Get on
        </Box>
      </Box>
    </Box>
  );
}

function Line(props: {
  check: Check;
  mayOverrule: boolean;
  answer: (side: Side, given: Answer, words?: string) => void;
}) {
  const { check, answer } = props;
  const [why, setWhy] = useState<string | null>(null);
  const of = (side: Side) => check.answers.find((a) => a.side === side)?.answer;
  const sides: Side[] = check.sides.length > 0 ? check.sides : ["both"];
  const overruled = check.answers.find((a) => a.answer === "overruled");
  return (
    <Box
      component="li"
      data-check={check.id}
      sx={{
        py: 1,
        pl: 1.5,
        my: 0.75,
        background: paper,
        border: `1px solid ${rule}`,
        borderLeft: `8px solid ${check.must ? marigold : rule}`,
        display: "grid",
        gap: 1,
        gridTemplateColumns: { xs: "1fr", sm: "minmax(0, 1fr) auto" },
        alignItems: "center",
      }}
    >
      <Box>
        <Box sx={{ fontWeight: 650, lineHeight: 1.2 }}>{check.says}</Box>
        <Box sx={{ color: inkSoft, fontSize: "0.95rem" }}>{check.why}</Box>
        {overruled && (
          <Box sx={{ color: oxblood, fontSize: "0.95rem" }}>
            {overruled.who} rides anyway: {overruled.words}
          </Box>
        )}
      </Box>
      <Box sx={{ display: "flex", gap: 0.75, flexWrap: "wrap", pr: 1 }}>
        {sides.map((side) => (
          <Box key={side} sx={{ display: "flex", gap: 0.5, alignItems: "center" }}>
            {side !== "both" && (
              <Box component="b" sx={{ color: sideColour[side] }}>
                {sideName[side]}
              </Box>
            )}
            <Press on={of(side) === "well"} good onClick={() => answer(side, "well")}>
              {side === "both" ? "OK" : "Stops"}
            </Press>
            <Press on={of(side) === "not"} bad onClick={() => answer(side, "not")}>
              {side === "both" ? "Not OK" : "Doesn't stop"}
            </Press>
          </Box>
        ))}
        {check.must && props.mayOverrule && (
          <Press on={!!overruled} onClick={() => setWhy((w) => (w === null ? "" : null))}>
            Ride anyway
          </Press>
        )}
      </Box>
      {why !== null && (
        <Box
          component="form"
          onSubmit={(e) => {
            e.preventDefault();
            if (!why.trim()) return;
            answer("both", "overruled", why.trim());
            setWhy(null);
          }}
          sx={{ display: "flex", gap: 1, gridColumn: "1 / -1", pr: 1 }}
        >
          <TextField
            autoFocus
            label="Why, in writing"
            value={why}
            onChange={(e) => setWhy(e.target.value)}
            slotProps={{ htmlInput: { maxLength: 500 } }}
          />
          <Press on onClick={() => undefined} submit>
            Sign
          </Press>
        </Box>
      )}
    </Box>
  );
}

function Press(props: {
  on: boolean;
  good?: boolean;
  bad?: boolean;
  submit?: boolean;
  onClick: () => void;
  children: React.ReactNode;
}) {
  const colour = props.good ? sageDark : props.bad ? oxblood : ink;
  return (
    <Box
      component="button"
      type={props.submit ? "submit" : "button"}
      aria-pressed={props.submit ? undefined : props.on}
      onClick={props.onClick}
      sx={{
        font: "inherit",
        fontWeight: 650,
        minHeight: 56,
        minWidth: 56,
        px: 1.5,
        border: `2px solid ${colour}`,
        background: props.on ? colour : "transparent",
        color: props.on ? paper : colour,
        cursor: "pointer",
        whiteSpace: "nowrap",
      }}
    >
      {props.children}
    </Box>
  );
}
