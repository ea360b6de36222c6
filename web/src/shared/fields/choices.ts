/** Something that can be chosen: what is written for it, and what it is called. */
export interface Option {
  value: string;
  title: string;
}

/** What can be chosen from, by what a field may hold. */
export interface Choices {
  pages: Option[];
  menus: Option[];
  assets: string[];
}
