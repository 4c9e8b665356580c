/** An id that no entry of the list has: `ladder`, `ladder-2`, … */
export function freshId(base: string, entries: readonly { id: string }[]): string {
  const taken = new Set(entries.map((entry) => entry.id));
  if (!taken.has(base)) return base;
  let number = 2;
  while (taken.has(`${base}-${number}`)) number += 1;
  return `${base}-${number}`;
}

/** An id made of a name: small letters, figures and hyphens. */
export function idFrom(name: string): string {
  const plain = name
    .normalize("NFKD")
    .replace(/[\u0300-\u036f]/g, "")
    .toLowerCase();
  return (
    plain
      .replace(/[^a-z0-9]+/g, "-")
      .replace(/^-+|-+$/g, "")
      .slice(0, 60) || "entry"
  );
}
