import Box from "@mui/material/Box";
import { useRef } from "react";
import type { Schemas } from "../../../api/client";
import { bone, ink, inkSoft, oxblood, paper, rule } from "../../../theme/tokens";
import { faultSays } from "./figure-words";
import { offsetOf } from "./text-edit";

const LINE = 1.5;
const face = { fontFamily: "ui-monospace, monospace", fontSize: "0.95rem", lineHeight: LINE };

/** The text of a figure with its lines numbered; what is wrong is marked where it stands, and told below. */
export function Editor(props: {
  text: string;
  faults: Schemas["TextFault"][];
  /** The line that is ridden now, from 1. */
  now: number | null;
  onType: (text: string) => void;
}) {
  const { text, faults } = props;
  const field = useRef<HTMLTextAreaElement>(null);
  const lines = text.split("\n");
  const wrong = new Set(faults.map((fault) => fault.line));
  const goTo = (fault: Schemas["TextFault"]) => {
    const at = offsetOf(text, fault.line, fault.column);
    field.current?.focus();
    field.current?.setSelectionRange(at, at);
  };
  return (
    <Box>
      <Box
        sx={{
          display: "grid",
          gridTemplateColumns: "2.6em minmax(0, 1fr)",
          border: `1px solid ${rule}`,
          borderTop: `2px solid ${ink}`,
          background: paper,
          maxHeight: { xs: 300, md: "calc(100vh - 380px)" },
          minHeight: 220,
          overflowY: "auto",
        }}
      >
        <Box
          aria-hidden="true"
          sx={{ ...face, background: bone, color: inkSoft, textAlign: "right", py: 1, pr: 0.75 }}
        >
          {lines.map((_, n) => (
            <Box
              key={n}
              sx={{
                color: wrong.has(n + 1) ? oxblood : undefined,
                fontWeight: wrong.has(n + 1) || props.now === n + 1 ? 700 : 400,
                background: props.now === n + 1 ? rule : undefined,
              }}
            >
              {n + 1}
            </Box>
          ))}
        </Box>
        <Box sx={{ position: "relative", minWidth: 0, overflowX: "auto" }}>
          <Marked lines={lines} faults={faults} />
          <Box
            component="textarea"
            ref={field}
            aria-label="Text of the figure"
            aria-invalid={faults.length > 0}
            aria-describedby="figure-faults"
            value={text}
            wrap="off"
            spellCheck={false}
            autoCapitalize="off"
            rows={lines.length}
            onChange={(e) => props.onType(e.target.value)}
            sx={{
              ...face,
              display: "block",
              position: "relative",
              width: "100%",
              minHeight: "100%",
              boxSizing: "border-box",
              p: 1,
              m: 0,
              border: 0,
              resize: "none",
              overflow: "hidden",
              background: "transparent",
              color: ink,
              whiteSpace: "pre",
              "&:focus-visible": { outline: `2px solid ${ink}`, outlineOffset: -2 },
            }}
          />
        </Box>
      </Box>
      <Box id="figure-faults" role="status" sx={{ mt: 0.75 }}>
        {faults.slice(0, 6).map((fault) => (
          <Box key={`${fault.line}:${fault.column}`} sx={{ display: "flex", gap: 1, lineHeight: 1.35 }}>
            <Box
              component="button"
              type="button"
              onClick={() => goTo(fault)}
              sx={{
                font: "inherit",
                fontWeight: 650,
                color: oxblood,
                background: "none",
                border: 0,
                p: 0,
                minHeight: 28,
                cursor: "pointer",
                textDecoration: "underline",
                whiteSpace: "nowrap",
              }}
            >
              Line {fault.line}
            </Box>
            <span style={{ paddingTop: 3 }}>{faultSays(fault)}</span>
          </Box>
        ))}
        {faults.length > 6 && <span>And {faults.length - 6} more.</span>}
      </Box>
    </Box>
  );
}

/** A wavy line under what is wrong: behind the field, in the same face. */
function Marked({ lines, faults }: { lines: string[]; faults: Schemas["TextFault"][] }) {
  return (
    <Box
      component="pre"
      aria-hidden="true"
      sx={{
        ...face,
        position: "absolute",
        inset: 0,
        m: 0,
        p: 1,
        color: "transparent",
        pointerEvents: "none",
      }}
    >
      {lines.map((line, n) => {
        const fault = faults.find((one) => one.line === n + 1);
        if (!fault) return `${line}\n`;
        const letters = [...line];
        const before = letters.slice(0, fault.column - 1).join("");
        const rest = letters.slice(fault.column - 1).join("");
        const word = /^\S+/.exec(rest)?.[0] ?? " ";
        return (
          <span key={n}>
            {before}
            <span
              style={{
                textDecoration: `underline wavy ${oxblood} 1.5px`,
                textUnderlineOffset: 3,
                background: `${oxblood}14`,
              }}
            >
              {word}
            </span>
            {rest.slice(word.length)}
            {"\n"}
          </span>
        );
      })}
    </Box>
  );
}
