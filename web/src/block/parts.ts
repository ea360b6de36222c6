/** The documents of a block, as its place shows them. */
export const parts = ["markup", "fields", "style", "behaviour"] as const;
export type Part = (typeof parts)[number];
