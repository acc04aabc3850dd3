import Box from "@mui/material/Box";
import { useQuery } from "@tanstack/react-query";
import { clocks } from "../api/client";
import { deviceWarnings } from "../offline/device";
import { marigold, paper } from "../theme/tokens";

/** What about this device may cost reps or confuse days. Silent when all is well. */
export function DeviceNote() {
  const { data } = useQuery({
    queryKey: ["device"],
    queryFn: () => {
      const at = clocks();
      return deviceWarnings(at?.here ?? new Date(), at?.server ?? null);
    },
    refetchInterval: 300_000,
    networkMode: "always",
  });
  if (!data || data.length === 0) return null;
  return (
    <Box role="status" className="no-print" sx={{ display: "grid", gap: 1, mb: 2 }}>
      {data.map((says) => (
        <Box key={says} sx={{ background: paper, borderLeft: `6px solid ${marigold}`, p: 1.25 }}>
          {says}
        </Box>
      ))}
    </Box>
  );
}
