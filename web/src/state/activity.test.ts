import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { useActivity } from "./activity";

beforeEach(() => vi.useFakeTimers());
afterEach(() => vi.useRealTimers());

const { begin, end } = useActivity.getState();
const slow = () => useActivity.getState().slow?.name;

it("tells nobody of what ends at once", () => {
  const told = vi.fn();
  const quiet = useActivity.subscribe(told);
  begin("a", vi.fn());
  vi.advanceTimersByTime(250);
  end("a");
  vi.advanceTimersByTime(1000);
  quiet();
  expect(told).not.toHaveBeenCalled();
});

it("tells of the first that takes long, then of the next, until all have ended", () => {
  begin("quick", vi.fn());
  begin("long", vi.fn());
  end("quick");
  vi.advanceTimersByTime(200);
  begin("later", vi.fn());
  vi.advanceTimersByTime(100);
  expect(slow()).toBe("long");
  vi.advanceTimersByTime(200);
  expect(slow()).toBe("long");
  end("long");
  expect(slow()).toBe("later");
  end("later");
  expect(slow()).toBeUndefined();
});
