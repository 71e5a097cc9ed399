// @vitest-environment happy-dom
import { act, render } from "@testing-library/react";
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { useCalmed } from "./use-calmed";

beforeEach(() => vi.useFakeTimers({ toFake: ["setTimeout", "clearTimeout", "performance"] }));
afterEach(() => vi.useRealTimers());

function Shown(p: { value: number; ms: number }) {
  return <>{useCalmed(p.value, p.ms)}</>;
}

it("shows every hundred milliseconds what has come since, the last one too", () => {
  const { container, rerender } = render(<Shown value={0} ms={100} />);
  const seen = new Set<string>();
  for (let n = 1; n <= 10; n++) {
    rerender(<Shown value={n} ms={100} />);
    act(() => vi.advanceTimersByTime(20));
    seen.add(container.innerHTML);
  }
  expect(seen.size).toBeLessThanOrEqual(3);
  act(() => vi.advanceTimersByTime(100));
  expect(container.innerHTML).toBe("10");
  rerender(<Shown value={11} ms={0} />);
  expect(container.innerHTML).toBe("11");
});
