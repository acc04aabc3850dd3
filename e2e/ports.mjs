// Where the servers of the browser tests listen: an installation with nothing in it for each try, and a demo for each worker, since
// tests change the horses, the book and the week of theirs.
const all = (process.env.E2E_PORTS ?? "8120 8121 8122 8123").split(" ");
export const emptyPorts = all.slice(0, 2);
export const demoPorts = all.slice(2);
