import { v4 } from "uuid";

/** An id of this device's own. The browser's own maker is missing on pages that are opened without TLS from another machine. */
export const newId = (): string => v4();
