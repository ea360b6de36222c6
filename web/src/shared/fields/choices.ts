/** What can be chosen from, by what a field may hold. */
export interface Choices {
  pages: string[];
  menus: string[];
  assets: string[];
}
