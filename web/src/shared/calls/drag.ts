/** What a block of the shelf is called while it is dragged. */
const kind = "application/x-shelf-block";

export function dragBlock(e: React.DragEvent, block: string) {
  e.dataTransfer.setData(kind, block);
  e.dataTransfer.effectAllowed = "copyLink";
}

/** The block that is dropped, or "". */
export function blockDragged(e: React.DragEvent): string {
  return e.dataTransfer.getData(kind);
}
