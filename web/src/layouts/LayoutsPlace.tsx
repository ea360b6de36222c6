import { Waiting } from "../shared/Waiting";
import { useParams } from "react-router";
import { useLayouts, useOverview, useSite } from "../api/queries";
import { Onward } from "../shared/Onward";
import { LayoutBench } from "./LayoutBench";
import { NewLayout } from "./NewLayout";

/** The Layouts place: the types of pages, their regions and what new pages begin with. */
export function LayoutsPlace() {
  const { name } = useParams();
  const site = useSite();
  const layouts = useLayouts();
  const overview = useOverview();
  if (layouts.error)
    return (
      <p className="empty" role="alert">
        {layouts.error.message}
      </p>
    );
  if (!layouts.data || !overview.data) return <Waiting error={null}>Opening…</Waiting>;
  const most = [...layouts.data].sort((a, b) => b.pages - a.pages)[0];
  if (!name && most) return <Onward to={`/${site}/layouts/${most.name}`} />;
  const layout = layouts.data.find((l) => l.name === name);
  if (layout)
    return (
      <LayoutBench
        key={layout.name}
        layout={layout}
        layouts={layouts.data}
        overview={overview.data}
      />
    );
  return (
    <div className="empty">
      <h1 dir="auto">{name ? `There is no layout ${name}` : "No layouts yet"}</h1>
      <p>
        A layout is a type of pages: the HTML around their text, and the regions that pages and
        rules fill.
      </p>
      <NewLayout layouts={layouts.data} from="" close={() => undefined} />
    </div>
  );
}
