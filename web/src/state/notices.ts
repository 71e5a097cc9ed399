import { create } from "zustand";

interface Notice {
  id: number;
  text: string;
  hint: string;
  isBad: boolean;
  action: { words: string; run: () => void } | null;
}

interface Notices {
  notices: Notice[];
  say: (n: Omit<Notice, "id">) => void;
  dismiss: (id: number) => void;
}

let last = 0;

/** Short messages at the foot of the page. */
export const useNotices = create<Notices>((set) => ({
  notices: [],
  say: (n) => set((s) => ({ notices: [...s.notices.slice(-2), { ...n, id: ++last }] })),
  dismiss: (id) => set((s) => ({ notices: s.notices.filter((n) => n.id !== id) })),
}));
