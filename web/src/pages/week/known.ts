/** What was looked up once in a list of the week, which never changes once it came. */
const indexes = new WeakMap<object, Map<string, unknown>>();

/** The one of a list that has an id. The list is gone through once, however often it is asked. */
export function known<T extends { id: string }>(list: T[], id: string | undefined): T | undefined {
  if (id === undefined) return undefined;
  let index = indexes.get(list) as Map<string, T> | undefined;
  if (!index) {
    index = new Map(list.map((x) => [x.id, x]));
    indexes.set(list, index);
  }
  return index.get(id);
}
