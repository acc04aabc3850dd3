import { createContext, use } from "react";
import type { Schemas } from "../api/client";

export const MeContext = createContext<Schemas["Me"] | null>(null);

/** The signed-in person. Only below the sign-in. */
export function useMe(): Schemas["Me"] {
  const me = use(MeContext);
  if (!me) throw new Error("nobody is signed in here");
  return me;
}

/** How to sign in again where the session has run out; null while it has not. */
export const SignedOutContext = createContext<(() => void) | null>(null);
