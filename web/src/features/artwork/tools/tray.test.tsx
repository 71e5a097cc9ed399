// @vitest-environment happy-dom
import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { LengthField, NumberField } from "./tray";

describe("a small number field", () => {
  beforeEach(() => {
    vi.useFakeTimers();
  });
  afterEach(() => {
    cleanup();
    vi.useRealTimers();
  });
  const field = () => screen.getByRole("spinbutton") as HTMLInputElement;
  const type = (text: string) => fireEvent.change(field(), { target: { value: text } });

  it("takes what was typed when the hand rests, once, however slowly it is saved", () => {
    const onChange = vi.fn();
    render(<NumberField label="up" unit="mm" min={-9} max={9} value={0} onChange={onChange} />);
    for (const text of ["3", "3.", "3.7"]) {
      type(text);
      vi.advanceTimersByTime(100);
    }
    expect(field().value).toBe("3.7");
    expect(onChange).not.toHaveBeenCalled();
    vi.advanceTimersByTime(400);
    expect(onChange.mock.calls).toEqual([[3.7]]);
  });

  it("takes it at once by Enter or when it is left, and nothing of what is no number", () => {
    const onChange = vi.fn();
    render(<NumberField label="up" unit="mm" min={-9} max={9} value={0} onChange={onChange} />);
    type("2");
    fireEvent.keyDown(field(), { key: "Enter" });
    type("5");
    fireEvent.blur(field());
    type("");
    vi.advanceTimersByTime(1000);
    expect(onChange.mock.calls).toEqual([[2], [5]]);
  });

  it("shows a value from elsewhere, and lengths in the design's unit", () => {
    const onChange = vi.fn();
    const of = (value: number) => (
      <LengthField label="x" unit="in" min={-100} max={100} value={value} onChange={onChange} />
    );
    const { rerender } = render(of(25.4));
    expect(field().value).toBe("1");
    rerender(of(12.7));
    expect(field().value).toBe("0.5");
    type("2");
    vi.advanceTimersByTime(400);
    expect(onChange.mock.calls).toEqual([[50.8]]);
  });
});
