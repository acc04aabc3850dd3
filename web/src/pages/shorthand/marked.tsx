import Box from "@mui/material/Box";
import type { Schemas } from "../../api/client";
import { inkSoft, oxblood, paper, rule, sageDark } from "../../theme/tokens";

type Piece = { text: string; says: string | null; wrong: boolean };

/** A line cut into what was understood, what was not, and what lies between. */
export function piecesOf(line: string, n: number, read: Schemas["ShorthandResponse"]): Piece[] {
  const chars = [...line];
  const word = (at: number) => read.words.find((w) => w.line === n && w.from <= at && at <= w.to);
  const trouble = (at: number) =>
    read.diagnostics.find((t) => t.line === n && t.from <= at && at <= t.to && !word(at));
  const out: (Piece & { of: unknown })[] = [];
  chars.forEach((c, i) => {
    const of = word(i + 1) ?? trouble(i + 1);
    const last = out.at(-1);
    if (last && last.of === of) last.text += c;
    else out.push({ text: c, says: of?.says ?? null, wrong: !!of && !word(i + 1), of });
  });
  return out.map(({ text, says, wrong }) => ({ text, says, wrong }));
}

/** The text with each word explained beneath it. */
export function Marked({ text, read }: { text: string; read: Schemas["ShorthandResponse"] }) {
  return (
    <Box
      aria-label="Word by word"
      role="group"
      sx={{ background: paper, border: `1px solid ${rule}`, p: 1.25 }}
    >
      {text.split("\n").map((line, n) => (
        <Box
          key={n}
          sx={{
            display: "flex",
            flexWrap: "wrap",
            alignItems: "start",
            columnGap: 0.5,
            minHeight: "1.2em",
            mb: 0.5,
          }}
        >
          {piecesOf(line, n + 1, read)
            .filter((p) => p.text.trim() !== "")
            .map((p, k) => (
              <Box key={k} sx={{ display: "grid", justifyItems: "start" }}>
                <Box
                  component="span"
                  sx={{
                    fontFamily: "ui-monospace, monospace",
                    borderBottom: `3px ${p.wrong ? "double" : "solid"} ${p.wrong ? oxblood : p.says ? sageDark : rule}`,
                    color: p.wrong ? oxblood : undefined,
                    fontWeight: p.wrong ? 700 : 400,
                  }}
                >
                  {p.text}
                </Box>
                <Box
                  component="span"
                  sx={{ fontSize: "0.78rem", color: p.wrong ? oxblood : inkSoft, maxWidth: 150 }}
                >
                  {p.wrong ? "?" : p.says}
                </Box>
              </Box>
            ))}
        </Box>
      ))}
    </Box>
  );
}
