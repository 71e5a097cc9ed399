// @vitest-environment happy-dom
import { act, cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, expect, test, vi } from "vitest";
import { Choice } from "./choice";

// Each choice has one; it counts how often it is drawn.
const icons = vi.hoisted(() => ({ drawn: 0 }));
vi.mock("./icons", () => ({
  Icon: () => {
    icons.drawn += 1;
    return null;
  },
}));

afterEach(cleanup);
// What Radix asks of a browser and happy-dom lacks.
Element.prototype.scrollIntoView = () => undefined;

const FORMS = [
  { name: "disc", label: "Disc" },
  { name: "square", label: "Square" },
];
const shown = () => screen.getByRole("combobox").textContent;

function chooseSquare() {
  fireEvent.keyDown(screen.getByRole("combobox"), { key: "Enter" });
  fireEvent.keyDown(screen.getByRole("option", { name: "Square" }), { key: "Enter" });
}

test("what was chosen is shown while it is being saved, and what is saved afterwards", async () => {
  let end: (version: number | undefined) => void = () => undefined;
  const saving = () =>
    new Promise<number | undefined>((done) => {
      end = done;
    });
  const choice = (value: string) => <Choice label="Form" value={value} options={FORMS} onChoose={saving} />;
  const { rerender } = render(choice("disc"));
  chooseSquare();
  expect(shown()).toContain("Square");
  await act(async () => end(2));
  expect(shown()).toContain("Square");
  rerender(choice("square"));
  // Undone: no memory of what was asked.
  rerender(choice("disc"));
  expect(shown()).toContain("Disc");
  // Refused.
  chooseSquare();
  expect(shown()).toContain("Square");
  await act(async () => end(undefined));
  expect(shown()).toContain("Disc");
});

test("a choice that says the same is not drawn anew, and does what the latest one does", () => {
  const chosen: string[] = [];
  const choice = (round: number, label: string) => (
    <Choice
      label={label}
      value="disc"
      options={FORMS.map((f) => ({ ...f }))}
      onChoose={(name) => chosen.push(`${name} ${round}`)}
    />
  );
  const { rerender } = render(choice(1, "Form"));
  const first = icons.drawn;
  rerender(choice(2, "Form"));
  expect(icons.drawn).toBe(first);
  chooseSquare();
  expect(chosen).toEqual(["square 2"]);
  rerender(choice(3, "Shape"));
  expect(document.body.textContent).toContain("Shape");
});
