/** An id that no entry of the list has: `ladder`, `ladder-2`, … */
export function freshId(base: string, entries: readonly { id: string }[]): string {
  const taken = new Set(entries.map((entry) => entry.id));
  if (!taken.has(base)) return base;
  let number = 2;
  while (taken.has(`${base}-${number}`)) number += 1;
  return `${base}-${number}`;
}
