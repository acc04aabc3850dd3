// @vitest-environment happy-dom
import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { Suspense, useState, type ComponentType } from "react";
import { afterEach, expect, test, vi } from "vitest";
import { Boundary } from "./boundary";
import { onDemand } from "./on-demand";

afterEach(cleanup);

function Barn() {
  const [note, setNote] = useState("");
  return <input aria-label="Note" value={note} onChange={(e) => setNote(e.target.value)} />;
}
const around = (Page: ComponentType) => (
  <Suspense fallback={<p>Fetching</p>}>
    <Page />
  </Suspense>
);

test("a page that is here already is shown at once, with nothing in its place before", async () => {
  const Page = onDemand(() => Promise.resolve(Barn));
  await Page.fetch();
  render(around(Page));
  expect(screen.queryByText("Fetching")).toBeNull();
  expect(screen.getByLabelText("Note")).toBeDefined();
});

test("a page is fetched once, however often it is asked for, and keeps what was typed when it is shown again", async () => {
  const load = vi.fn(() => Promise.resolve(Barn));
  const Page = onDemand(load);
  const { rerender } = render(around(Page));
  expect(screen.getByText("Fetching")).toBeDefined();
  const note = await screen.findByLabelText<HTMLInputElement>("Note");
  fireEvent.change(note, { target: { value: "shod on Friday" } });
  await Page.fetch();
  rerender(around(Page));
  expect(screen.getByLabelText<HTMLInputElement>("Note").value).toBe("shod on Friday");
  expect(load).toHaveBeenCalledTimes(1);
});

test("a page whose script does not come says so, and is asked for again", async () => {
  const quiet = vi.spyOn(console, "error").mockImplementation(() => undefined);
  const load = vi.fn<() => Promise<ComponentType>>().mockRejectedValue(new TypeError("no network"));
  const Page = onDemand(load);
  await expect(Page.fetch()).rejects.toThrow("no network");
  const shown = render(<Boundary>{around(Page)}</Boundary>);
  expect(await screen.findByRole("alert")).toBeDefined();
  expect(load.mock.calls.length).toBeLessThan(6);
  shown.unmount();
  load.mockResolvedValue(Barn);
  render(<Boundary>{around(Page)}</Boundary>);
  expect(await screen.findByLabelText("Note")).toBeDefined();
  quiet.mockRestore();
});
