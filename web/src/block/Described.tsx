import { useOverview, useHead } from "../api/queries";
import { Words } from "../shared/fields/Declared";

/** What a block says of itself: what it is called, among which it is kept, what it is for, and how it
 *  is shown where it stands on no page. */
export function Described({
  text,
  set,
}: {
  text: string;
  set: (keys: string[], value: unknown) => void;
}) {
  const overview = useOverview().data;
  const head = useHead(text);
  if (!head) return null;
  const categories = [...new Set(overview?.blocks.map((b) => b.category).filter(Boolean))];
  return (
    <details className="described">
      <summary>
        What it is <span className="soft">title, category, what it is for, sample</span>
      </summary>
      <div className="declaration">
        <Words label="Title" value={head.title} set={(v) => set(["title"], v)} />
        <Words
          label="Category"
          value={head.category}
          options={categories}
          set={(v) => set(["category"], v)}
        />
        <Words label="What it is for" value={head.about} set={(v) => set(["about"], v)} />
        <Words label="Sample" value={head.sample} rows={2} set={(v) => set(["sample"], v)} />
      </div>
    </details>
  );
}
