/** Where a line between sites is edited. */
export const lineOf = (id: string) => `/targets?line=${encodeURIComponent(id)}`;

/** Where what a site carries is edited. */
export const siteOf = (id: string) => `/targets?site=${encodeURIComponent(id)}`;
