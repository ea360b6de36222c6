// @vitest-environment jsdom
import { act, render, screen } from "@testing-library/react";
import { useEffect, useState } from "react";
import { createMemoryRouter, RouterProvider } from "react-router";
import { expect, it } from "vitest";
import { Onward } from "./Onward";

const arrive = () => {
  act(() => {
    dispatchEvent(new Event("arrive"));
  });
};

/** A place whose things come when they arrive. */
function Late() {
  const [there, setThere] = useState(false);
  useEffect(() => {
    const on = () => setThere(true);
    addEventListener("arrive", on);
    return () => removeEventListener("arrive", on);
  }, []);
  return there ? <Onward to="/menus/main" /> : <p>Opening</p>;
}

function routed() {
  let load = () => {};
  const loaded = new Promise<null>((done) => (load = () => done(null)));
  const router = createMemoryRouter(
    [
      { path: "/menus", Component: Late },
      { path: "/menus/main", element: <p>The main menu</p> },
      { path: "/files", loader: () => loaded, element: <p>The files</p> },
    ],
    { initialEntries: ["/menus"] },
  );
  render(<RouterProvider router={router} />);
  return { router, load };
}

it("leads on to the first thing of a place", async () => {
  const { router } = routed();
  arrive();
  await screen.findByText("The main menu");
  expect(router.state.location.pathname).toBe("/menus/main");
});

it("calls nobody back who is on the way elsewhere", async () => {
  const { router, load } = routed();
  await act(() => {
    void router.navigate("/files");
    return Promise.resolve();
  });
  arrive();
  await act(() => Promise.resolve(load()));
  await screen.findByText("The files");
  expect(router.state.location.pathname).toBe("/files");
});
