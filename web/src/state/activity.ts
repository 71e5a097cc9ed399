import { create } from "zustand";

interface Job {
  name: string;
  since: number;
  stop: () => void;
}

interface Activity {
  jobs: Job[];
  begin: (name: string, stop: () => void) => void;
  end: (name: string) => void;
}

/** Requests under way, so that the interface can say what takes long and stop it. */
export const useActivity = create<Activity>((set) => ({
  jobs: [],
  begin: (name, stop) => set((s) => ({ jobs: [...s.jobs, { name, stop, since: Date.now() }] })),
  end: (name) => set((s) => ({ jobs: s.jobs.filter((j) => j.name !== name) })),
}));
