import { useState } from "react";
import type { Face } from "../../theme/tokens";

/** The face for the light there is, remembered on this device. */
export function useFace(): [Face, (face: Face) => void] {
  const [face, setFace] = useState<Face>(() => (stored() === "sun" ? "sun" : "dark"));
  const set = (next: Face) => {
    setFace(next);
    try {
      localStorage.setItem("cavesson.face", next);
    } catch {
      // It is chosen again next time.
    }
  };
  return [face, set];
}

function stored(): string | null {
  try {
    return localStorage.getItem("cavesson.face");
  } catch {
    return null;
  }
}
