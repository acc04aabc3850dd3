import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, type Schemas } from "../../api/client";
import { onTape, typedLength } from "../../parts/lengths";
import { OneOf } from "../../parts/one-of";
import { FormTrouble } from "../../parts/states";
import { inkSoft, rule } from "../../theme/tokens";
import { cornersOf } from "./fences";

type Pen = Schemas["Pen"];
const kinds: [Schemas["Outline"]["kind"], string][] = [
  ["rectangle", "Rectangle"],
  ["oval", "Oval"],
  ["corners", "Corners"],
];
const grounds: [Schemas["Underfoot"], string][] = [
  ["rutted", "Rutted"],
  ["wet", "Wet"],
  ["hard", "Hard"],
  ["taken", "Something stands there"],
];
const howBad: [number, string][] = [
  [1, "A little"],
  [2, "Bad"],
  [3, "Nothing goes over it"],
];

/** Draws the pen of a place: outline, north, gate, posts and bad ground, in lengths off a tape. */
export function PenForm(props: {
  ground: string;
  kept: Schemas["PenOut"];
  units: Schemas["Units"];
  onLook: (pen: Pen) => void;
}) {
  const client = useQueryClient();
  const { units } = props;
  const [pen, setPen] = useState(props.kept.pen);
  const set = (change: Partial<Pen>) => {
    const next = { ...pen, ...change };
    setPen(next);
    props.onLook(next);
  };
  const save = useMutation({
    mutationFn: () =>
      ask(
        api.PUT("/api/grounds/{id}/pen", {
          params: { path: { id: props.ground } },
          body: { version: props.kept.version, pen },
        }),
      ),
    onSuccess: () => void client.invalidateQueries({ queryKey: ["pen", props.ground] }),
  });
  const { outline } = pen;
  const as = (kind: Schemas["Outline"]["kind"]): Schemas["Outline"] => {
    const corners = cornersOf(outline);
    const width = Math.max(...corners.map((p) => p.x)) - Math.min(...corners.map((p) => p.x));
    const length = Math.max(...corners.map((p) => p.y)) - Math.min(...corners.map((p) => p.y));
    if (kind !== "corners") return { kind, width, length };
    return { kind, corners: cornersOf({ kind: "rectangle", width, length }) };
  };
  const middle = () => {
    const corners = cornersOf(outline);
    const mean = (of: (p: Schemas["Point"]) => number) =>
      corners.reduce((sum, p) => sum + of(p), 0) / corners.length;
    return { x: mean((p) => p.x), y: mean((p) => p.y) };
  };
  const square = (at: Schemas["Point"], side: number) => [
    { x: at.x - side / 2, y: at.y - side / 2 },
    { x: at.x + side / 2, y: at.y - side / 2 },
    { x: at.x + side / 2, y: at.y + side / 2 },
    { x: at.x - side / 2, y: at.y + side / 2 },
  ];
  const areas = pen.areas ?? [];
  const setArea = (n: number, change: Partial<Schemas["Area"]>) =>
    set({ areas: areas.map((a, k) => (k === n ? { ...a, ...change } : a)) });
  return (
    <Box
      component="form"
      noValidate
      aria-label="The pen"
      onSubmit={(e) => (e.preventDefault(), save.mutate())}
      sx={{ display: "grid", gap: 1.5 }}
    >
      <OneOf label="Outline" of={kinds} picked={outline.kind} onPick={(kind) => set({ outline: as(kind) })} />
      {outline.kind === "corners" ? (
        <Points
          name="Corner"
          points={outline.corners}
          units={units}
          onChange={(corners) => set({ outline: { kind: "corners", corners } })}
          fresh={middle}
        />
      ) : (
        <Box sx={{ display: "flex", gap: 1.5 }}>
          <Length
            label="Width"
            value={outline.width}
            units={units}
            onChange={(width) => set({ outline: { ...outline, width } })}
          />
          <Length
            label="Length"
            value={outline.length}
            units={units}
            onChange={(length) => set({ outline: { ...outline, length } })}
          />
        </Box>
      )}
      <Box sx={{ display: "grid", gap: 1.5, gridTemplateColumns: "1fr 1fr 1fr auto" }}>
        <TextField
          label="North, degrees"
          value={String(Math.round(pen.north ?? 0))}
          onChange={(e) => set({ north: ((Number(e.target.value) || 0) + 360) % 360 })}
          slotProps={{ htmlInput: { inputMode: "numeric" } }}
        />
        {pen.gate ? (
          <>
            <Length
              label="Gate, right"
              value={pen.gate.x}
              units={units}
              onChange={(x) => set({ gate: { x, y: pen.gate?.y ?? 0 } })}
            />
            <Length
              label="Gate, up"
              value={pen.gate.y}
              units={units}
              onChange={(y) => set({ gate: { x: pen.gate?.x ?? 0, y } })}
            />
            <Button onClick={() => set({ gate: null })}>No gate</Button>
          </>
        ) : (
          <Button variant="outlined" onClick={() => set({ gate: { x: middle().x, y: 0 } })}>
            Mark the gate
          </Button>
        )}
      </Box>
      <Typography sx={{ fontWeight: 650 }}>Posts to measure from</Typography>
      <Points
        name="Post"
        points={pen.posts ?? []}
        units={units}
        onChange={(posts) => set({ posts })}
        fresh={() => ({ x: 0, y: middle().y })}
      />
      <Typography sx={{ fontWeight: 650 }}>Bad ground</Typography>
      {areas.map((area, n) => {
        const xs = area.corners.map((p) => p.x);
        const ys = area.corners.map((p) => p.y);
        const at = { x: (Math.min(...xs) + Math.max(...xs)) / 2, y: (Math.min(...ys) + Math.max(...ys)) / 2 };
        const side = Math.max(...xs) - Math.min(...xs);
        return (
          <Box key={n} sx={{ display: "grid", gap: 1, borderTop: `1px solid ${rule}`, pt: 1 }}>
            <Box sx={{ display: "flex", gap: 1 }}>
              <Length
                label="Right"
                value={at.x}
                units={units}
                onChange={(x) => setArea(n, { corners: square({ ...at, x }, side) })}
              />
              <Length
                label="Up"
                value={at.y}
                units={units}
                onChange={(y) => setArea(n, { corners: square({ ...at, y }, side) })}
              />
              <Length
                label="Across"
                value={side}
                units={units}
                onChange={(s) => setArea(n, { corners: square(at, s) })}
              />
            </Box>
            <Box sx={{ display: "flex", gap: 1, alignItems: "center" }}>
              <TextField
                select
                label="What"
                value={area.underfoot}
                onChange={(e) => setArea(n, { underfoot: e.target.value as Schemas["Underfoot"] })}
              >
                {grounds.map(([value, name]) => (
                  <MenuItem key={value} value={value}>
                    {name}
                  </MenuItem>
                ))}
              </TextField>
              <TextField
                select
                label="How bad"
                value={area.bad}
                onChange={(e) => setArea(n, { bad: Number(e.target.value) })}
              >
                {howBad.map(([value, name]) => (
                  <MenuItem key={value} value={value}>
                    {name}
                  </MenuItem>
                ))}
              </TextField>
              <Button onClick={() => set({ areas: areas.filter((_, k) => k !== n) })}>Remove</Button>
            </Box>
          </Box>
        );
      })}
      <Button
        variant="outlined"
        onClick={() =>
          set({ areas: [...areas, { corners: square(middle(), 6), underfoot: "rutted", bad: 2 }] })
        }
        sx={{ justifySelf: "start" }}
      >
        Add bad ground
      </Button>
      <FormTrouble error={save.error} />
      <Box sx={{ display: "flex", gap: 2, alignItems: "center" }}>
        <Button type="submit" variant="contained" disabled={save.isPending}>
          Save the pen
        </Button>
        {save.isSuccess && <span role="status">The pen is saved.</span>}
      </Box>
      <Typography sx={{ color: inkSoft, fontSize: "0.92rem" }}>
        Measured from the front left corner: right along the front fence, up along the left one.
      </Typography>
    </Box>
  );
}

/** A length off a tape; what cannot be read stays as it was typed. */
function Length(props: {
  label: string;
  value: number;
  units: Schemas["Units"];
  onChange: (metres: number) => void;
}) {
  const [typed, setTyped] = useState<string | null>(null);
  const read = typed === null ? null : typedLength(props.units, typed);
  return (
    <TextField
      label={props.label}
      value={typed ?? onTape(props.units, props.value)}
      error={typed !== null && read === null}
      onFocus={(e) => e.target.select()}
      onChange={(e) => {
        setTyped(e.target.value);
        const metres = typedLength(props.units, e.target.value);
        if (metres !== null) props.onChange(metres);
      }}
      onBlur={() => setTyped(null)}
    />
  );
}

function Points(props: {
  name: string;
  points: Schemas["Point"][];
  units: Schemas["Units"];
  onChange: (points: Schemas["Point"][]) => void;
  fresh: () => Schemas["Point"];
}) {
  const at = (n: number, change: Partial<Schemas["Point"]>) =>
    props.onChange(props.points.map((p, k) => (k === n ? { ...p, ...change } : p)));
  return (
    <Box sx={{ display: "grid", gap: 1 }}>
      {props.points.map((p, n) => (
        <Box key={n} sx={{ display: "flex", gap: 1, alignItems: "center" }}>
          <Length
            label={`${props.name} ${n + 1}, right`}
            value={p.x}
            units={props.units}
            onChange={(x) => at(n, { x })}
          />
          <Length label="up" value={p.y} units={props.units} onChange={(y) => at(n, { y })} />
          <Button onClick={() => props.onChange(props.points.filter((_, k) => k !== n))}>Remove</Button>
        </Box>
      ))}
      <Button
        variant="outlined"
        sx={{ justifySelf: "start" }}
        onClick={() => props.onChange([...props.points, props.fresh()])}
      >
        Add a {props.name.toLowerCase()}
      </Button>
    </Box>
  );
}
