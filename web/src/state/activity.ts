import { create } from "zustand";

interface Job {
  name: string;
  stop: () => void;
}

interface Activity {
  /** The first request under way that takes long. */
  slow: Job | null;
  begin: (name: string, stop: () => void) => void;
  end: (name: string) => void;
}

/** Time after which the interface says what takes long. */
const PATIENCE_MS = 300;

/** Requests under way, in their order. Most end at once, and then nobody is told: a hand that drags asks dozens a second. */
const jobs = new Map<string, Job & { isSlow: boolean; timer: ReturnType<typeof setTimeout> }>();

/** What takes long, so that the interface can say so and stop it. */
export const useActivity = create<Activity>((set, get) => {
  const tell = () => {
    const slow = [...jobs.values()].find((j) => j.isSlow) ?? null;
    if (slow !== get().slow) set({ slow });
  };
  return {
    slow: null,
    begin: (name, stop) => {
      const job = {
        name,
        stop,
        isSlow: false,
        timer: setTimeout(() => {
          job.isSlow = true;
          tell();
        }, PATIENCE_MS),
      };
      jobs.set(name, job);
    },
    end: (name) => {
      clearTimeout(jobs.get(name)?.timer);
      jobs.delete(name);
      tell();
    },
  };
});
