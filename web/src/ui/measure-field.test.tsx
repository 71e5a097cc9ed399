// @vitest-environment happy-dom
import { cleanup, fireEvent, render, screen, waitFor } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import { MeasureField } from "./measure-field";

afterEach(cleanup);

function field(onCommit: (text: string) => Promise<unknown>, value = 3) {
  const at = (mm: number) => (
    <MeasureField label="Height" value={mm} unit="mm" step={0.2} onCommit={onCommit} note="15 layers" />
  );
  const { rerender } = render(at(value));
  const input = screen.getByLabelText<HTMLInputElement>("Height");
  return { input, becomes: (mm: number) => rerender(at(mm)) };
}

describe("a measure's field", () => {
  it("sends what was typed as it is, once, with Enter", async () => {
    const commit = vi.fn(async (_: string) => undefined);
    const { input } = field(commit);
    fireEvent.change(input, { target: { value: "1/8 in" } });
    fireEvent.keyDown(input, { key: "Enter" });
    await waitFor(() => expect(commit.mock.calls).toEqual([["1/8 in"]]));
    await waitFor(() => expect(input.value).toBe("3.0"));
  });

  it("keeps a refused text, says why, and forgets both when the value changes elsewhere", async () => {
    const commit = vi.fn(async (_: string) => {
      throw new Error("The height can be 2 mm to 60 mm; 99 mm is outside");
    });
    const { input, becomes } = field(commit);
    fireEvent.change(input, { target: { value: "99" } });
    fireEvent.blur(input);
    const alert = await screen.findByRole("alert");
    expect(alert.textContent).toContain("2 mm to 60 mm");
    expect([input.value, input.getAttribute("aria-invalid")]).toEqual(["99", "true"]);
    // Leaving it once more asks nobody.
    fireEvent.focus(input);
    fireEvent.blur(input);
    expect(commit.mock.calls.length).toBe(1);
    becomes(5);
    await waitFor(() => expect(screen.queryByRole("alert")).toBeNull());
    expect(screen.getByText("15 layers")).toBeTruthy();
    expect(input.value).toBe("5.0");
  });

  it("steps with the arrows: ten with Shift, a tenth with Alt", async () => {
    const commit = vi.fn(async (_: string) => undefined);
    const { input } = field(commit);
    for (const more of [{}, { shiftKey: true }, { altKey: true }])
      fireEvent.keyDown(input, { key: "ArrowUp", ...more });
    await waitFor(() =>
      expect(commit.mock.calls.map(([text]) => text)).toEqual(["3.2 mm", "5 mm", "3.02 mm"]),
    );
  });

  it("Escape takes back what was typed and sends nothing", () => {
    const commit = vi.fn(async (_: string) => undefined);
    const { input } = field(commit);
    expect(input.dataset.saved).toBe("true");
    fireEvent.change(input, { target: { value: "7" } });
    // Undo is the field's own as long as what is typed is not saved.
    expect(input.dataset.saved).toBeUndefined();
    fireEvent.keyDown(input, { key: "Escape" });
    fireEvent.blur(input);
    expect([input.value, commit.mock.calls.length]).toEqual(["3.0", 0]);
  });
});
