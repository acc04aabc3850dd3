import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import type { Schemas } from "../../api/client";
import { ink, inkSoft, rule } from "../../theme/tokens";
import { RungLink } from "./rung-link";

/** The roads of bits: stages in order, and the steps of the first days in each. */
export function Roads({ book, onPick }: { book: Schemas["CurriculumOut"]; onPick: (id: string) => void }) {
  return (
    <Box component="section" aria-labelledby="roads">
      <Typography variant="h2" id="roads" sx={{ borderBottom: `2px solid ${ink}`, pb: 0.5 }}>
        Roads from bit to bit
      </Typography>
      <Box
        sx={{
          display: "grid",
          gap: 3,
          mt: 2,
          alignItems: "start",
          gridTemplateColumns: { xs: "minmax(0, 1fr)", lg: "repeat(3, minmax(0, 1fr))" },
        }}
      >
        {book.roads.map((road) => (
          <Box key={road.id}>
            <Typography variant="h3">{road.name}</Typography>
            <Typography sx={{ color: inkSoft }}>{road.says}</Typography>
            <Box component="ol" sx={{ pl: 2.5, my: 1 }}>
              {road.stage.map((stage) => (
                <Box component="li" key={stage.name} sx={{ mb: 1, borderTop: `1px solid ${rule}`, pt: 0.75 }}>
                  <b>{stage.name}</b>: {stage.bit}, {stage.takes}. Judged by{" "}
                  <RungLink id={stage.rung} book={book} onPick={onPick} />
                  {stage.step.length > 0 && (
                    <Box component="details" sx={{ mt: 0.5 }}>
                      <Box component="summary" sx={{ cursor: "pointer", minHeight: 32 }}>
                        {stage.step.length} steps, each passed before the next
                      </Box>
                      <Box component="ol" sx={{ pl: 2.5 }}>
                        {stage.step.map((step) => (
                          <li key={step.name}>
                            <b>{step.name}</b>: {step.ask}. Passed when {step.passed}.{" "}
                            <Box component="span" sx={{ color: inkSoft }}>
                              {step.caution}
                            </Box>
                          </li>
                        ))}
                      </Box>
                    </Box>
                  )}
                </Box>
              ))}
            </Box>
          </Box>
        ))}
      </Box>
    </Box>
  );
}
