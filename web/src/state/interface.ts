import { create } from "zustand";

export const STATIONS = ["artwork", "outline", "tiers", "check", "print"] as const;
export type Station = (typeof STATIONS)[number];
/** Which side is shown: what is cut, as the picture reads, or the tool that cuts it, its mirror image. */
export type Side = "cookie" | "tool";

/** How often heights of the section may be stretched. */
export const STRETCHES = [1, 2, 4] as const;
export type Stretch = (typeof STRETCHES)[number];

interface Interface {
  side: Side;
  isDark: boolean;
  /** Whether plans are shown in the colours of filaments; null where nobody has said so. */
  inFilaments: boolean | null;
  /** Whether Check shows the object in use. */
  isInUse: boolean;
  /** Whether earlier states are laid beside the present one. */
  isComparing: boolean;
  helpIsOpen: boolean;
  /** Whether a letter or digit alone does something: who speaks to the machine, or strikes keys by chance, switches that off. */
  hasLetterKeys: boolean;
  /** Where the section runs, mm above the middle of the edge. */
  section: number;
  /** Whether somebody has put it there; until then it runs through what is drawn. */
  isSectionPut: boolean;
  /** How far the section is turned, degrees anticlockwise as the picture reads. */
  turned: number;
  /** So many times as high as it is, the section is drawn. */
  stretch: Stretch;
  /** The handle that is held; scales do not change meanwhile. */
  held: string | null;
  /** The mesh that was drawn last. */
  drawn: string | null;
  /** Solids are drawn by the processor. */
  isSlow: boolean;
  /** The measure that is pointed at, in the list or on a drawing. */
  measure: string | null;
  /** Index of the patch or finding that is pointed at. */
  patch: number | null;
  finding: number | null;
  /** Which of its places is looked at. */
  place: number | null;
  flip: () => void;
  showFilaments: (on: boolean) => void;
  toggleDark: () => void;
  setHelp: (open: boolean) => void;
  setLetterKeys: (on: boolean) => void;
  pointPatch: (index: number | null) => void;
  pointFinding: (index: number | null, place?: number | null) => void;
}

function savedDark(): boolean {
  const saved = localStorage.getItem("kachel-dark");
  return saved === null ? matchMedia("(prefers-color-scheme: dark)").matches : saved === "yes";
}

/** State of the interface that is nobody else's business. */
export const useInterface = create<Interface>((set, get) => ({
  side: "cookie",
  isDark: savedDark(),
  inFilaments: null,
  isInUse: false,
  isComparing: false,
  helpIsOpen: false,
  hasLetterKeys: localStorage.getItem("kachel-letter-keys") !== "no",
  held: null,
  drawn: null,
  isSlow: false,
  section: 0,
  isSectionPut: false,
  turned: 0,
  stretch: 1,
  measure: null,
  patch: null,
  finding: null,
  place: null,
  flip: () => set((s) => ({ side: s.side === "cookie" ? "tool" : "cookie" })),
  showFilaments: (inFilaments) => set({ inFilaments }),
  toggleDark: () => {
    const isDark = !get().isDark;
    localStorage.setItem("kachel-dark", isDark ? "yes" : "no");
    set({ isDark });
  },
  setHelp: (helpIsOpen) => set({ helpIsOpen }),
  setLetterKeys: (hasLetterKeys) => {
    localStorage.setItem("kachel-letter-keys", hasLetterKeys ? "yes" : "no");
    set({ hasLetterKeys });
  },
  pointPatch: (patch) => set({ patch }),
  pointFinding: (finding, place = null) => set({ finding, place }),
}));
