import Box from "@mui/material/Box";
import type { ReactNode } from "react";
import { ink, white } from "../theme/tokens";
import { ENDS, STAGES, type CountDraft, type CountKind, type Stage } from "./counts";

type Props = {
  kind: CountKind;
  draft: CountDraft;
  onChange: (draft: CountDraft) => void;
  /** What the fields are of: `set 2`. */
  of: string;
  /** Height of a field, px. */
  height?: number;
};

const names: Record<CountKind, [string, string?]> = {
  laps: ["laps"],
  "nose-ups": ["nose-ups", "circles"],
  "set-ups": ["accepted", "set-ups"],
  mounts: ["stood loose", "mounts"],
  "rein-share": ["% bridle rein"],
  held: ["seconds held"],
  steps: ["steps"],
  tries: ["tries"],
};
const joins: Partial<Record<CountKind, string>> = { "nose-ups": "nose-ups in" };

/** A count in fields, by the measure of its rung. */
export function CountFields({ kind, draft, onChange, of, height = 44 }: Props) {
  const field = {
    font: "inherit",
    minHeight: height,
    border: `1.5px solid ${ink}`,
    background: white,
    color: ink,
    px: 1,
    minWidth: 0,
  };
  if (kind === "tries") return <Tries {...{ draft, onChange, of, field }} />;
  const [first, second] = names[kind];
  const ends = ENDS[kind];
  const number = (name: "n" | "of", label: string) => (
    <Box
      component="input"
      aria-label={`${label}, ${of}`}
      inputMode="numeric"
      value={draft[name]}
      onChange={(e) => onChange({ ...draft, [name]: e.target.value.replace(/\D/g, "").slice(0, 4) })}
      sx={{ ...field, width: 72 }}
    />
  );
  return (
    <Line>
      {number("n", first)}
      {second ? (
        <>
          <span>{joins[kind] ?? `${first} of`}</span>
          {number("of", second)}
          <span>{second}</span>
        </>
      ) : (
        <span>{first}</span>
      )}
      {ends && (
        <Box
          component="select"
          aria-label={`How it ended, ${of}`}
          value={draft.good ? "good" : "bad"}
          onChange={(e) => onChange({ ...draft, good: e.target.value === "good" })}
          sx={field}
        >
          <option value="good">{ends[0]}</option>
          <option value="bad">{ends[1]}</option>
        </Box>
      )}
    </Line>
  );
}

function Tries(props: Pick<Props, "draft" | "onChange" | "of"> & { field: object }) {
  const { draft, onChange, of, field } = props;
  const set = (stages: Stage[]) => onChange({ ...draft, stages });
  const choice = (stage: Stage | "", n: number) => (
    <Box
      component="select"
      key={n}
      aria-label={`Try ${n + 1}, ${of}`}
      value={stage}
      onChange={(e) => {
        const next = e.target.value as Stage | "";
        set(
          next ? [...draft.stages.slice(0, n), next, ...draft.stages.slice(n + 1)] : draft.stages.slice(0, n),
        );
      }}
      sx={field}
    >
      <option value="">{n === 0 ? "how far" : "and again"}</option>
      {STAGES.map(([s, name]) => (
        <option key={s} value={s}>
          {name}
        </option>
      ))}
    </Box>
  );
  return (
    <Line>
      {draft.stages.map(choice)}
      {choice("", draft.stages.length)}
    </Line>
  );
}

function Line({ children }: { children: ReactNode }) {
  return <Box sx={{ display: "flex", flexWrap: "wrap", alignItems: "center", gap: 0.75 }}>{children}</Box>;
}
