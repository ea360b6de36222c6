import { Waiting } from "../shared/Waiting";
import { useParams } from "react-router";
import { useMenus, useOverview, useSite } from "../api/queries";
import { Onward } from "../shared/Onward";
import { MenuBench } from "./MenuBench";
import { NewMenu } from "./NewMenu";

/** The Menus place: nested lists of links, shown by the blocks that take a menu. */
export function MenusPlace() {
  const { name } = useParams();
  const site = useSite();
  const menus = useMenus();
  const overview = useOverview();
  if (menus.error)
    return (
      <p className="empty" role="alert">
        {menus.error.message}
      </p>
    );
  if (!menus.data || !overview.data) return <Waiting error={null}>Opening…</Waiting>;
  const most = [...menus.data].sort((a, b) => b.pages - a.pages)[0];
  if (!name && most) return <Onward to={`/${site}/menus/${most.name}`} />;
  const menu = menus.data.find((m) => m.name === name);
  if (menu)
    return <MenuBench key={menu.name} menu={menu} menus={menus.data} overview={overview.data} />;
  return (
    <div className="empty">
      <h1 dir="auto">{name ? `There is no menu ${name}` : "No menus yet"}</h1>
      <p>
        A menu is a list of links. A block shows the one that its menu field names, so that one
        header can have another menu in each section.
      </p>
      <NewMenu close={() => undefined} />
    </div>
  );
}
