import Box from "@mui/material/Box";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate, useParams } from "react-router";
import { curriculum, curriculumOf, gone, horses } from "../../api/queries";
import { useMe } from "../../parts/me";
import { PageLoading, PageTrouble } from "../../parts/states";
import { bone, ink, inkSoft } from "../../theme/tokens";
import { BookFile } from "./file";
import { LadderMap } from "./map";
import { Opening } from "./opening";
import { Roads } from "./roads";
import { RungPage } from "./rung";
import { Schools } from "./schools";

/** The curriculum to read and to change: a ladder as a map of needs, and one rung of it in full. */
export function Book() {
  const { rung: asked } = useParams();
  const navigate = useNavigate();
  const me = useMe();
  const [whose, setWhose] = useState("");
  const string = useQuery(horses());
  const { data, error, refetch } = useQuery(whose ? curriculumOf(whose) : curriculum);
  const howGone = useQuery(gone);
  const [letter, setLetter] = useState<string | null>(null);
  if (error && !data)
    return <PageTrouble title="Couldn't load the Book" detail={error.message} again={() => void refetch()} />;
  if (!data) return <PageLoading what="the Book" />;
  const shown = letter ?? data.rungs.find((r) => r.id === asked)?.ladder ?? "S";
  const rungs = data.rungs.filter((r) => r.ladder === shown);
  const isFirstPage = !asked && letter === null;
  const rung = isFirstPage ? undefined : (rungs.find((r) => r.id === asked) ?? rungs[0]);
  const open = (id: string) => {
    setLetter(data.rungs.find((r) => r.id === id)?.ladder ?? shown);
    void navigate(`/book/${id}`, { preventScrollReset: true });
  };
  return (
    <Box sx={{ display: "grid", gap: 2 }}>
      <Box sx={{ display: "flex", gap: 2, alignItems: "end", flexWrap: "wrap" }}>
        <Box sx={{ flex: 1, minWidth: 220 }}>
          <Typography variant="h1">The Book</Typography>
          <Typography sx={{ color: inkSoft }}>
            What is taught here, in which order, and what owning it means
          </Typography>
        </Box>
        <TextField
          select
          label="For"
          value={whose}
          onChange={(e) => setWhose(e.target.value)}
          sx={{ width: 200 }}
          slotProps={{ inputLabel: { shrink: true }, select: { displayEmpty: true } }}
        >
          <MenuItem value="">the whole barn</MenuItem>
          {string.data?.items.map((h) => (
            <MenuItem key={h.id} value={h.id}>
              {h.name}
            </MenuItem>
          ))}
        </TextField>
      </Box>
      <Box role="tablist" aria-label="Ladders" sx={{ display: "flex", flexWrap: "wrap", gap: 0.5 }}>
        {data.ladders.map((l) => (
          <Box
            key={l.letter}
            component="button"
            type="button"
            role="tab"
            aria-selected={l.letter === shown}
            onClick={() => {
              setLetter(l.letter);
              const first = data.rungs.find((r) => r.ladder === l.letter);
              if (first) void navigate(`/book/${first.id}`);
            }}
            sx={{
              font: "inherit",
              fontWeight: 650,
              minHeight: 40,
              px: 1.25,
              border: `1.5px solid ${ink}`,
              background: l.letter === shown ? ink : "transparent",
              color: l.letter === shown ? bone : ink,
              cursor: "pointer",
            }}
          >
            {l.letter} {l.name}
          </Box>
        ))}
      </Box>
      <Box
        sx={{
          display: "grid",
          gap: 3,
          gridTemplateColumns: { xs: "minmax(0, 1fr)", md: "minmax(0, 1fr) minmax(0, 1.05fr)" },
          alignItems: "start",
        }}
      >
        <LadderMap rungs={rungs} all={data.rungs} picked={rung?.id ?? ""} onPick={open} />
        {isFirstPage && <Opening book={data} onPick={open} />}
        {rung && (
          <RungPage
            key={rung.id + whose}
            rung={rung}
            book={data}
            gone={howGone.data}
            horse={whose || null}
            mayChange={me.role === "trainer"}
            onPick={open}
          />
        )}
      </Box>
      {shown === "B" && <Roads book={data} onPick={open} />}
      <Schools book={data} horse={whose || null} mayChange={me.role === "trainer"} />
      {me.role === "trainer" && !whose && <BookFile book={data} />}
    </Box>
  );
}
