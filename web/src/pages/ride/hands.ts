/** Who rides from here on, and on which cow. */
export type Now = { riderId: string | null; riderName: string; cow: string | null };

type Person = { id: string; name: string };

/** The next cow: the number at the end of its name goes up; a cow without one is followed by a second. */
export function nextCow(cow: string | null): string {
  if (!cow) return "1";
  const numbered = /^(.*?)(\d{1,6})$/.exec(cow);
  return numbered ? `${numbered[1] ?? ""}${Number(numbered[2]) + 1}` : `${cow} 2`;
}

/** Who is likeliest to get on next: who rode before, else the one at the device, else the horse's usual rider, else the trainer. */
export function otherRider(
  riding: string,
  before: string | null,
  me: string,
  usual: string | null,
  people: (Person & { role: string })[],
): Person | undefined {
  const trainer = people.find((p) => p.role === "trainer" && p.id !== riding)?.id;
  const likely = [before, me, usual, trainer].find((id) => id && id !== riding);
  return people.find((p) => p.id === likely);
}
