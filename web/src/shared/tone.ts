/** What a notice is about, where it is more than news. */
export type Tone = "warning" | "error";
