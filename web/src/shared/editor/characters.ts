/** How many characters of a text stand before a byte offset. */
export function characters(text: string, bytes: number): number {
  return new TextDecoder().decode(new TextEncoder().encode(text).slice(0, bytes)).length;
}
