import Box from "@mui/material/Box";
import Dialog from "@mui/material/Dialog";
import DialogContent from "@mui/material/DialogContent";
import Typography from "@mui/material/Typography";

/** What single keys do, in a dialog. */
export function KeyList(props: { title: string; keys: [string, string][]; onClose: () => void }) {
  return (
    <Dialog open onClose={props.onClose} aria-labelledby="keys-title">
      <DialogContent>
        <Typography variant="h2" id="keys-title" sx={{ mb: 1.5 }}>
          {props.title}
        </Typography>
        <Box
          component="dl"
          sx={{ display: "grid", gridTemplateColumns: "auto 1fr", columnGap: 3, rowGap: 0.75, m: 0 }}
        >
          {props.keys.map(([key, what]) => (
            <Box key={key} sx={{ display: "contents" }}>
              <Box component="dt" sx={{ fontWeight: 700 }}>
                {key}
              </Box>
              <Box component="dd" sx={{ m: 0 }}>
                {what}
              </Box>
            </Box>
          ))}
        </Box>
      </DialogContent>
    </Dialog>
  );
}
