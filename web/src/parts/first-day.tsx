import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import type { Schemas } from "../api/client";
import { ink, inkSoft, marigold, marigoldDark, oxblood, paper, pine, rule } from "../theme/tokens";
import { useMe } from "./me";
import { OneOf } from "./one-of";
import type { EventOf, TackLog } from "./tack-log";
import { Toggle } from "./toggle";
import { capital, day, many } from "./words";

type List = Schemas["FirstDayOut"];
type Noted = Schemas["StepNotedOut"];
type Came = Schemas["Came"];
type Corner = Schemas["Corner"];

const corners: [Corner | null, string][] = [
  [null, "Not looked"],
  ["quiet", "Quiet"],
  ["wrinkled", "Wrinkled"],
  ["pinched", "Pinched"],
];
const cameIn: Record<Came, string> = { passed: "passed", fretted: "fretted", left: "left for another day" };

/** How often and when a step was done, in words. */
export function doneInWords(noted: Noted[]): string {
  const last = noted.at(-1);
  if (!last) return "";
  const strap = [
    last.hole != null && `hole ${last.hole}`,
    last.turned != null && `turned ${Math.round((last.turned * 180) / Math.PI)}°`,
    last.corner && `corner ${last.corner}`,
    last.tossed && "tossed its head",
  ].filter(Boolean);
  const frets = noted.filter((n) => n.came === "fretted").length;
  return [
    `${cameIn[last.came]} ${day(last.on)}`,
    ...strap,
    frets > 0 && last.came !== "fretted"
      ? `fretted ${frets === 1 ? "once" : many(frets, "time")} before`
      : "",
  ]
    .filter(Boolean)
    .join(", ");
}

/** The list of a first day in a leverage bit: each step passed, fretted or left, and which is next. */
export function FirstDay(props: { list: List; log: TackLog | null }) {
  const { list, log } = props;
  const client = useQueryClient();
  // What waits on this device is not in the list yet: once it is sent, the list is read again.
  const unsent =
    log?.waiting.filter((i) => i.kind === "tack" && ["step", "anyway"].includes(i.body.event.kind)).length ??
    0;
  useEffect(() => {
    if (unsent > 0) return;
    void client.invalidateQueries({ queryKey: ["ride"], predicate: (q) => q.queryKey[2] === "tack" });
    void client.invalidateQueries({ queryKey: ["horse"], predicate: (q) => q.queryKey[2] === "tack" });
  }, [client, unsent]);
  const isShut = list.lacks.length > 0 && !list.anyway && list.noted.length === 0;
  return (
    <Box sx={{ display: "grid", gap: 1.5 }}>
      <Typography role="status" sx={{ fontSize: "1.25rem", fontWeight: 700 }}>
        {unsent > 0 ? "Kept on this device: the list goes on when it is sent." : `${list.says}.`}
      </Typography>
      {isShut && <Shut list={list} log={log} />}
      {list.anyway && <Typography sx={{ color: oxblood }}>Begun all the same. {list.anyway}</Typography>}
      <Box
        component="ol"
        aria-label="Steps"
        sx={{ listStyle: "none", m: 0, p: 0, display: "grid", gap: 0.5 }}
      >
        {list.steps.map((step, n) => {
          const mine = list.noted.filter((x) => x.step === n);
          const isNext = n === list.next && !list.another_day && !isShut;
          const isPassed = list.next == null || n < list.next;
          return (
            <Box
              component="li"
              key={step.name}
              aria-current={isNext ? "step" : undefined}
              sx={{
                background: paper,
                border: `1px solid ${rule}`,
                borderLeft: `8px solid ${isNext ? marigold : isPassed ? pine : rule}`,
                px: 1.5,
                py: isNext ? 1.5 : 0.75,
              }}
            >
              <Box sx={{ display: "flex", gap: 1, flexWrap: "wrap", alignItems: "baseline" }}>
                <b>
                  {n + 1}. {step.name}
                </b>
                <Box component="span" sx={{ color: inkSoft, fontSize: "0.95rem" }}>
                  {doneInWords(mine)}
                </Box>
              </Box>
              {isNext && (
                <>
                  <Typography sx={{ mt: 0.5 }}>
                    {capital(step.ask)}. Passed when {step.passed}.
                  </Typography>
                  <Typography sx={{ color: marigoldDark, fontWeight: 650 }}>{step.caution}</Typography>
                  {log && unsent === 0 && (
                    <Came key={`${n} ${mine.length}`} n={n} strap={step.strap} log={log} />
                  )}
                </>
              )}
            </Box>
          );
        })}
      </Box>
      <Typography sx={{ color: inkSoft, fontSize: "0.95rem" }}>
        Have someone there who has done it before. A step that frets goes back one; a sore mouth is for the
        vet or dentist.
      </Typography>
    </Box>
  );
}

/** What is lacking, and a trainer's signature for beginning all the same. */
function Shut(props: { list: List; log: TackLog | null }) {
  const me = useMe();
  const [why, setWhy] = useState<string | null>(null);
  return (
    <Box sx={{ border: `1px solid ${rule}`, borderLeft: `8px solid ${oxblood}`, background: paper, p: 1.5 }}>
      <b>Not yet</b>
      <Box component="ul" sx={{ m: 0, pl: 2.5 }}>
        {props.list.lacks.map((lack) => (
          <li key={lack}>{lack}</li>
        ))}
      </Box>
      {props.log && me.role === "trainer" && why === null && (
        <Button variant="outlined" onClick={() => setWhy("")} sx={{ mt: 1, minHeight: 44 }}>
          Begin anyway
        </Button>
      )}
      {why !== null && (
        <Box
          component="form"
          noValidate
          sx={{ display: "flex", gap: 1, mt: 1, flexWrap: "wrap" }}
          onSubmit={(e) => {
            e.preventDefault();
            if (!why.trim()) return;
            props.log?.log({ kind: "anyway", why: why.trim() });
            setWhy(null);
          }}
        >
          <TextField
            autoFocus
            label="Why, in writing"
            value={why}
            onChange={(e) => setWhy(e.target.value)}
            slotProps={{ htmlInput: { maxLength: 500 } }}
            sx={{ flex: "1 1 240px" }}
          />
          <Button type="submit" variant="contained" disabled={!why.trim()}>
            Sign
          </Button>
        </Box>
      )}
    </Box>
  );
}

/** How the step came out. */
function Came(props: { n: number; strap: boolean; log: TackLog }) {
  const { n, strap, log } = props;
  const [tossed, setTossed] = useState(false);
  const [hole, setHole] = useState("");
  const [turned, setTurned] = useState("");
  const [corner, setCorner] = useState<Corner | null>(null);
  const number = (text: string, least: number, most: number) =>
    text.trim() === "" || (/^\d+$/.test(text.trim()) && Number(text) >= least && Number(text) <= most);
  const sound = number(hole, 1, 20) && number(turned, 0, 90);
  const note = (came: Came) => {
    const step: EventOf<"step"> = {
      kind: "step",
      step: n,
      came,
      tossed,
      hole: hole.trim() ? Number(hole) : null,
      turned: turned.trim() ? (Number(turned) * Math.PI) / 180 : null,
      corner,
    };
    log.log(step);
  };
  const mayPass = !tossed && corner !== "pinched";
  const button = { minHeight: 56, flex: "1 1 96px", fontWeight: 700, fontSize: "1.05rem" } as const;
  return (
    <Box sx={{ display: "grid", gap: 1, mt: 1 }}>
      {strap && (
        <Box sx={{ display: "flex", gap: 1, flexWrap: "wrap", alignItems: "start" }}>
          <TextField
            label="Hole of the strap"
            value={hole}
            onChange={(e) => setHole(e.target.value)}
            error={!number(hole, 1, 20)}
            helperText={number(hole, 1, 20) ? "from the tightest" : "1 to 20"}
            slotProps={{ htmlInput: { inputMode: "numeric" } }}
            sx={{ width: 150 }}
          />
          <TextField
            label="Shank turned, °"
            value={turned}
            onChange={(e) => setTurned(e.target.value)}
            error={!number(turned, 0, 90)}
            helperText={number(turned, 0, 90) ? "until it took hold" : "0 to 90"}
            slotProps={{ htmlInput: { inputMode: "numeric" } }}
            sx={{ width: 150 }}
          />
          <Box>
            <Box sx={{ fontSize: "0.95rem", color: inkSoft }}>Corner of the mouth</Box>
            <OneOf label="Corner of the mouth" of={corners} picked={corner} onPick={setCorner} />
          </Box>
        </Box>
      )}
      <Box>
        <Toggle
          name="Tossed its head"
          on={tossed}
          onPress={() => setTossed(!tossed)}
          sx={{ minHeight: 56, px: 2 }}
        />
      </Box>
      {!mayPass && (
        <Box role="status" sx={{ color: oxblood, fontWeight: 650 }}>
          Not passed so: look at the strap first.
        </Box>
      )}
      <Box sx={{ display: "flex", gap: 1, flexWrap: "wrap" }}>
        <Button variant="contained" disabled={!sound || !mayPass} onClick={() => note("passed")} sx={button}>
          Passed
        </Button>
        <Button
          variant="outlined"
          disabled={!sound}
          onClick={() => note("fretted")}
          sx={{ ...button, color: oxblood, borderColor: oxblood }}
        >
          Fretted
        </Button>
        <Button
          variant="outlined"
          disabled={!sound}
          onClick={() => note("left")}
          sx={{ ...button, color: ink, borderColor: ink }}
        >
          Another day
        </Button>
      </Box>
    </Box>
  );
}
